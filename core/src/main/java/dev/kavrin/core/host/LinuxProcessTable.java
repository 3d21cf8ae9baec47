package dev.kavrin.core.host;

import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/** As the kernel tells them (proc(5), from memory). */
final class LinuxProcessTable implements ProcessTable {
  static final Path PROC = Path.of("/proc");
  private static final Path BOOT = PROC.resolve("sys/kernel/random/boot_id");
  private static final Path NAME = PROC.resolve("sys/kernel/hostname");

  @Override
  public List<Line> now() {
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

  @Override
  public Set<Path> open(long pid) {
    Set<Path> open = new TreeSet<>();
    try (DirectoryStream<Path> all = Files.newDirectoryStream(of(pid).resolve("fd"))) {
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

  @Override
  @Nullable
  public Path folder(long pid) {
    return told(pid, "cwd");
  }

  @Override
  @Nullable
  public Path program(long pid) {
    return told(pid, "exe");
  }

  @Nullable
  private static Path told(long pid, String link) {
    try {
      return Files.readSymbolicLink(of(pid).resolve(link));
    } catch (IOException | SecurityException notTold) {
      return null;
    }
  }

  private static Path of(long pid) {
    return PROC.resolve(Long.toString(pid));
  }

  @Override
  public boolean mayBeWritten(Path file) {
    return OpenFiles.mayBeWritten(file);
  }

  @Override
  public String boot() {
    return read(BOOT);
  }

  @Override
  public String name() {
    return read(NAME);
  }

  private static String read(Path file) {
    try {
      return Files.readString(file).strip();
    } catch (IOException untold) {
      return "";
    }
  }
}
