package dev.kavrin.server.platform;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/** The processes of this machine, as the kernel tells them. */
public final class ProcessList {
  private static final Path PROC = Path.of("/proc");

  private ProcessList() {}

  /**
   * One process.
   *
   * @param arguments its command line, program first; never empty
   */
  public record Line(long pid, List<String> arguments) {}

  /** Those that are there; kernel threads and such as ended meanwhile are left out. */
  public static List<Line> now() {
    List<Line> lines = new ArrayList<>();
    try (DirectoryStream<Path> all = Files.newDirectoryStream(PROC, "[0-9]*")) {
      for (Path process : all) {
        try {
          String line = Files.readString(process.resolve("cmdline"), StandardCharsets.ISO_8859_1);
          if (!line.isEmpty()) {
            lines.add(
                new Line(
                    Long.parseLong(process.getFileName().toString()), List.of(line.split("\0"))));
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

  /** Files a process has open, as far as Kavrin may see them. */
  public static Set<Path> open(long pid) {
    Set<Path> open = new TreeSet<>();
    try (DirectoryStream<Path> all =
        Files.newDirectoryStream(PROC.resolve(Long.toString(pid)).resolve("fd"))) {
      for (Path link : all) {
        Path target = Files.readSymbolicLink(link);
        if (target.isAbsolute() && !target.startsWith("/dev") && !target.startsWith(PROC)) {
          open.add(target);
        }
      }
    } catch (IOException | SecurityException notOurs) {
      return open;
    }
    return open;
  }
}
