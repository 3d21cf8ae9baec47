package dev.kavrin.server.folder;

import dev.kavrin.core.disk.Volumes;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;

/** Which physical disks stand behind a folder, as far as this machine tells. */
public final class Disks {
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
      String device = "device " + Volumes.of(folder).device(folder);
      return Optional.of(
          Volumes.of(folder)
              .disks(folder)
              .map(disks -> new Name(String.join("+", disks), true))
              .orElseGet(() -> new Name(device, false)));
    } catch (IOException away) {
      return Optional.empty();
    }
  }

  static String relation(Path work, Path other) {
    Optional<Set<String>> a = Volumes.of(work).disks(work);
    Optional<Set<String>> b = Volumes.of(other).disks(other);
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
      return Volumes.of(a).device(a).equals(Volumes.of(b).device(b));
    } catch (IOException unknown) {
      return false;
    }
  }
}
