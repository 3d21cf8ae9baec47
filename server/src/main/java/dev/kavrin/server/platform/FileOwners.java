package dev.kavrin.server.platform;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;

/** Whose a file is and who wrote it last, as far as the system tells. */
public final class FileOwners {
  private FileOwners() {}

  /** Empty if the system does not tell. */
  public static String owner(Path file) {
    try {
      return Files.getOwner(file, LinkOption.NOFOLLOW_LINKS).getName();
    } catch (IOException | UnsupportedOperationException untold) {
      return "";
    }
  }

  /** Who wrote it last, empty if the system does not tell. */
  public static String lastWriter(Path file) {
    return isAsNew(file) ? owner(file) : "";
  }

  /**
   * True if the file was made by its last save, as programs do that write a new file and give it
   * the name: then its owner is who saved it. No file system keeps who wrote into a file.
   */
  private static boolean isAsNew(Path file) {
    try {
      Process stat =
          new ProcessBuilder("stat", "--format=%W %Y", "--", file.toString())
              .redirectError(ProcessBuilder.Redirect.DISCARD)
              .start();
      String[] told =
          new String(stat.getInputStream().readAllBytes(), StandardCharsets.US_ASCII)
              .strip()
              .split(" ");
      return told.length == 2
          && !told[0].equals("0")
          && Math.abs(Long.parseLong(told[0]) - Long.parseLong(told[1])) <= 2;
    } catch (IOException | NumberFormatException untold) {
      return false;
    }
  }
}
