package dev.kavrin.core.compare;

import dev.kavrin.core.compare.Comparison.Side;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Readers;
import dev.kavrin.core.health.SiblingFilesOnDisk;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/** Compares two files on disk by what their readers find in them. */
public final class FileComparison {
  /** Common practice, no source: a quarter of the reader's heap. */
  private static final long SMALL = 64L << 20;

  private FileComparison() {}

  /** Within what the files themselves can tell apart. */
  public static Comparison of(Disk disk, Path a, String nameA, Path b, String nameB)
      throws IOException {
    return of(disk, Source.of(a, nameA), Source.of(b, nameB), null);
  }

  /**
   * A file to compare.
   *
   * @param name proper name; its ending chooses the reader
   * @param once what lay beside it, as {@link SiblingFilesOnDisk} takes it
   */
  public record Source(Path file, String name, Map<String, String> once) {
    /** With what lies beside it now. */
    public static Source of(Path file, String name) {
      return new Source(file, name, Map.of());
    }

    HealthReport inspected(Disk disk) {
      return new HealthCheck(disk, once).inspect(file, name);
    }

    Insides insides(Disk disk, SeekableByteChannel in) throws IOException {
      return Insides.of(in, name, new SiblingFilesOnDisk(disk, file, once));
    }
  }

  /**
   * @param wanted how far lengths may differ, null for what the files themselves can tell apart
   */
  public static Comparison of(Disk disk, Source a, Source b, @Nullable Tolerance wanted)
      throws IOException {
    if (isOpaque(disk, a) && isOpaque(disk, b)) {
      return ofBytes(disk, a.file(), b.file());
    }
    AtOnce.Both<HealthReport> read = inspected(disk, a, b);
    HealthReport readA = read.a();
    HealthReport readB = read.b();
    Inventory partsA = readA.inventory();
    Inventory partsB = readB.inventory();
    Tolerance tolerance = wanted == null ? Tolerance.of(partsA, partsB) : wanted;
    try (SeekableByteChannel inA = disk.read(a.file());
        SeekableByteChannel inB = disk.read(b.file());
        Insides insideA = a.insides(disk, inA);
        Insides insideB = b.insides(disk, inB)) {
      boolean opaque = partsA.parts().isEmpty() && partsB.parts().isEmpty();
      return new Comparison(
          opaque ? List.of() : Comparer.compare(partsA, partsB, insideA, insideB, tolerance),
          opaque ? ByteChange.of(inA, inB) : null,
          new Side(partsA.format(), readA.findings()),
          new Side(partsB.format(), readB.findings()),
          tolerance.length());
    }
  }

  /** Both at once where both are small enough to be in memory together. */
  private static AtOnce.Both<HealthReport> inspected(Disk disk, Source a, Source b)
      throws IOException {
    if (size(disk, a) + size(disk, b) <= SMALL) {
      return AtOnce.of(() -> a.inspected(disk), () -> b.inspected(disk));
    }
    return new AtOnce.Both<>(a.inspected(disk), b.inspected(disk));
  }

  private static long size(Disk disk, Source source) throws IOException {
    return disk.facts(source.file()).map(FileFacts::size).orElse(0L);
  }

  /** About how many bytes comparing two files reads: what is looked into is read twice. */
  public static long toRead(Disk disk, Source a, Source b) throws IOException {
    long once = size(disk, a) + size(disk, b);
    return isOpaque(disk, a) && isOpaque(disk, b) ? once : 2 * once;
  }

  private static boolean isOpaque(Disk disk, Source source) throws IOException {
    try (SeekableByteChannel in = disk.read(source.file())) {
      return Readers.of(in, source.name()).isEmpty();
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
