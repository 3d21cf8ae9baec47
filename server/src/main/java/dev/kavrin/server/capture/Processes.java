package dev.kavrin.server.capture;

import dev.kavrin.core.store.ProcessTable;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** The processes of this machine, looked at no more than once a half second. */
final class Processes implements ProcessTable {
  private static final Path PROC = Path.of("/proc");
  private static final long FRESH_NANOS = 500_000_000;

  private List<String> commandLines = List.of();
  private long lookedAt;
  private boolean looked;

  @Override
  public synchronized boolean runs(String words) {
    if (words == null || words.isBlank()) {
      return false;
    }
    if (!looked || System.nanoTime() - lookedAt > FRESH_NANOS) {
      commandLines = look();
      lookedAt = System.nanoTime();
      looked = true;
    }
    return commandLines.stream().anyMatch(line -> line.contains(words));
  }

  private static List<String> look() {
    List<String> lines = new ArrayList<>();
    try (DirectoryStream<Path> all = Files.newDirectoryStream(PROC, "[0-9]*")) {
      for (Path process : all) {
        try {
          String line = Files.readString(process.resolve("cmdline"), StandardCharsets.ISO_8859_1);
          if (!line.isEmpty()) {
            lines.add(line.replace('\0', ' '));
          }
        } catch (IOException ended) {
          continue;
        }
      }
    } catch (IOException noProcesses) {
      return List.of();
    }
    return lines;
  }
}
