package dev.kavrin.core.compare;

import dev.kavrin.core.compare.Comparison.Side;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.health.FilesBeside;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Readers;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;

/** Compares two files on disk by what their readers find in them. */
public final class FileComparison {
  private FileComparison() {}

  /** Within what the files themselves can tell apart. */
  public static Comparison of(Disk disk, Path a, String nameA, Path b, String nameB)
      throws IOException {
    return of(disk, a, nameA, b, nameB, null);
  }

  /**
   * @param nameA proper names; their endings choose the readers
   * @param wanted how far lengths may differ, null for what the files themselves can tell apart
   */
  public static Comparison of(
      Disk disk, Path a, String nameA, Path b, String nameB, @Nullable Tolerance wanted)
      throws IOException {
    if (isOpaque(disk, a, nameA) && isOpaque(disk, b, nameB)) {
      return ofBytes(disk, a, b);
    }
    HealthCheck check = new HealthCheck(disk);
    HealthReport readA = check.inspect(a, nameA);
    HealthReport readB = check.inspect(b, nameB);
    Inventory partsA = readA.inventory();
    Inventory partsB = readB.inventory();
    Tolerance tolerance = wanted == null ? Tolerance.of(partsA, partsB) : wanted;
    try (SeekableByteChannel inA = disk.read(a);
        SeekableByteChannel inB = disk.read(b);
        Insides insideA = Insides.of(inA, nameA, new FilesBeside(disk, a));
        Insides insideB = Insides.of(inB, nameB, new FilesBeside(disk, b))) {
      boolean opaque = partsA.parts().isEmpty() && partsB.parts().isEmpty();
      return new Comparison(
          opaque ? List.of() : Comparer.compare(partsA, partsB, insideA, insideB, tolerance),
          opaque ? ByteChange.of(inA, inB) : null,
          new Side(partsA.format(), readA.findings()),
          new Side(partsB.format(), readB.findings()),
          tolerance.length());
    }
  }

  private static boolean isOpaque(Disk disk, Path file, String name) throws IOException {
    try (SeekableByteChannel in = disk.read(file)) {
      return Readers.of(in, name).isEmpty();
    }
  }

  private static Comparison ofBytes(Disk disk, Path a, Path b) throws IOException {
    try (SeekableByteChannel inA = disk.read(a);
        SeekableByteChannel inB = disk.read(b)) {
      Side opaque = new Side(Inventory.OPAQUE.format(), List.of());
      return new Comparison(List.of(), ByteChange.of(inA, inB), opaque, opaque, 0);
    }
  }
}
