package dev.kavrin.core.host;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;

/** Who has a file open, as far as Linux tells this user (proc(5), from memory). */
final class OpenFiles {
  private OpenFiles() {}

  static boolean mayBeWritten(Path file) {
    try (DirectoryStream<Path> processes =
        Files.newDirectoryStream(LinuxProcessTable.PROC, "[0-9]*")) {
      for (Path process : processes) {
        if (hasOpen(process, file) || hasMapped(process, file)) {
          return true;
        }
      }
    } catch (IOException notTold) {
      return true;
    }
    return false;
  }

  private static boolean hasOpen(Path process, Path file) {
    try (DirectoryStream<Path> descriptors = Files.newDirectoryStream(process.resolve("fd"))) {
      for (Path descriptor : descriptors) {
        if (leadsTo(descriptor, file)
            && writes(process.resolve("fdinfo").resolve(descriptor.getFileName()))) {
          return true;
        }
      }
    } catch (IOException | RuntimeException notOursOrEnded) {
      return false;
    }
    return false;
  }

  private static boolean leadsTo(Path descriptor, Path file) {
    try {
      return Files.readSymbolicLink(descriptor).equals(file);
    } catch (IOException closed) {
      return false;
    }
  }

  /** The last octal digit of the flags tells how it was opened: 0 is for reading alone. */
  private static boolean writes(Path info) throws IOException {
    return Files.readAllLines(info).stream()
        .filter(line -> line.startsWith("flags:"))
        .anyMatch(line -> (line.charAt(line.length() - 1) - '0' & 3) != 0);
  }

  private static boolean hasMapped(Path process, Path file) {
    try {
      String maps = Files.readString(process.resolve("maps"), StandardCharsets.ISO_8859_1);
      String name =
          new String(file.toString().getBytes(StandardCharsets.UTF_8), StandardCharsets.ISO_8859_1);
      int at = maps.indexOf(name);
      while (at >= 0) {
        String line = maps.substring(maps.lastIndexOf('\n', at) + 1, at);
        boolean whole =
            at + name.length() < maps.length() && maps.charAt(at + name.length()) == '\n';
        if (whole && line.contains(" rw-s ")) {
          return true;
        }
        at = maps.indexOf(name, at + 1);
      }
    } catch (IOException notOursOrEnded) {
      return false;
    }
    return false;
  }
}
