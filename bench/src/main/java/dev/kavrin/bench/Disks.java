package dev.kavrin.bench;

import dev.kavrin.core.disk.AnsweringDisk;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.RealDisk;
import java.time.Duration;

/** Disks as the service has them. */
final class Disks {
  private Disks() {}

  static Disk answering() {
    return new AnsweringDisk(
        new RealDisk(),
        path -> path.getParent() == null ? path : path.getParent(),
        Duration.ofSeconds(5));
  }
}
