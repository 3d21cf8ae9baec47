package dev.kavrin.core.compare;

import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.health.FilesBeside;
import dev.kavrin.core.health.HealthCheck;
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
   * @param tolerance null for what the files themselves can tell apart
   */
  public static Comparison of(
      Disk disk, Path a, String nameA, Path b, String nameB, @Nullable Tolerance tolerance)
      throws IOException {
    HealthCheck check = new HealthCheck(disk);
    try (SeekableByteChannel inA = disk.read(a);
        SeekableByteChannel inB = disk.read(b)) {
      Inventory inventoryA = check.inspect(a, nameA).inventory();
      Inventory inventoryB = check.inspect(b, nameB).inventory();
      if (inventoryA.parts().isEmpty() && inventoryB.parts().isEmpty()) {
        return new Comparison(List.of(), ByteChange.of(inA, inB));
      }
      try (Insides insideA = Insides.of(inA, nameA, new FilesBeside(disk, a));
          Insides insideB = Insides.of(inB, nameB, new FilesBeside(disk, b))) {
        return Comparer.compare(
            inventoryA,
            inventoryB,
            insideA,
            insideB,
            tolerance == null ? Tolerance.of(inventoryA, inventoryB) : tolerance);
      }
    }
  }
}
