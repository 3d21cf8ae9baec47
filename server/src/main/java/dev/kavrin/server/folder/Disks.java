package dev.kavrin.server.folder;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Which physical disks stand behind a folder, as far as Linux tells (/sys/dev/block). */
public final class Disks {
  private static final Path BLOCK = Path.of("/sys/dev/block");

  private Disks() {}

  /**
   * What tells a folder's disk from others.
   *
   * @param known false if the kernel does not say which disks are behind the device
   */
  public record Name(String disk, boolean known) {}

  /** Empty while the folder is not there. */
  public static Optional<Name> of(Path folder) {
    try {
      String device = "device " + Files.getAttribute(folder, "unix:dev");
      return Optional.of(
          behind(folder)
              .map(disks -> new Name(String.join("+", disks), true))
              .orElseGet(() -> new Name(device, false)));
    } catch (IOException away) {
      return Optional.empty();
    }
  }

  static String relation(Path work, Path other) {
    Optional<Set<String>> a = behind(work);
    Optional<Set<String>> b = behind(other);
    if (sameFileSystem(work, other)) {
      return "the same disk";
    }
    if (a.isEmpty() || b.isEmpty()) {
      return "perhaps the same disk";
    }
    return a.get().stream().anyMatch(b.get()::contains) ? "the same disk" : "another disk";
  }

  private static boolean sameFileSystem(Path a, Path b) {
    try {
      return Files.getAttribute(a, "unix:dev").equals(Files.getAttribute(b, "unix:dev"));
    } catch (IOException unknown) {
      return false;
    }
  }

  /** Names of whole disks; empty if the kernel does not say. */
  private static Optional<Set<String>> behind(Path folder) {
    try {
      long dev = (Long) Files.getAttribute(folder, "unix:dev");
      long major = (dev >>> 8 & 0xfff) | (dev >>> 32 & ~0xfffL);
      long minor = (dev & 0xff) | (dev >>> 12 & ~0xffL);
      Path node = BLOCK.resolve(major + ":" + minor);
      if (Files.notExists(node)) {
        return Optional.empty();
      }
      Set<String> disks = new TreeSet<>();
      collect(node.toRealPath(), disks);
      return Optional.of(disks);
    } catch (IOException unknown) {
      return Optional.empty();
    }
  }

  private static void collect(Path device, Set<String> disks) throws IOException {
    Path below = device.resolve("slaves");
    List<Path> parts;
    if (Files.isDirectory(below)) {
      try (var list = Files.list(below)) {
        parts = list.toList();
      }
    } else {
      parts = List.of();
    }
    if (parts.isEmpty()) {
      boolean partition = Files.exists(device.resolve("partition"));
      disks.add((partition ? device.getParent() : device).getFileName().toString());
    }
    for (Path part : parts) {
      collect(part.toRealPath(), disks);
    }
  }
}
