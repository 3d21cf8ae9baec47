package dev.kavrin.core.health;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.dxf.DxfReader;
import dev.kavrin.core.content.gltf.GlbReader;
import dev.kavrin.core.content.hdf5.Hdf5Reader;
import dev.kavrin.core.content.json.JsonReader;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Reads a file through the reader of its format, or as opaque bytes. In this process. */
public final class HealthCheck implements Inspector {
  private static final List<ContentReader> READERS =
      List.of(new GlbReader(), new DxfReader(), new JsonReader(), new Hdf5Reader());
  private static final int BLOCK = 1 << 16;

  private final Disk disk;

  public HealthCheck(Disk disk) {
    this.disk = disk;
  }

  @Override
  public HealthReport inspect(Path file, String name) {
    String ext = FileName.of(name).lowerExt();
    try (SeekableByteChannel in = disk.read(file)) {
      for (ContentReader reader : READERS) {
        if (reader.reads(ext)) {
          return judged(reader.read(in));
        }
      }
      return opaque(in);
    } catch (IOException | OutOfMemoryError failed) {
      return HealthReport.uncheckable("Could not be read: " + failed.getMessage());
    }
  }

  private static HealthReport judged(ContentReader.Reading reading) {
    Verdict verdict =
        reading.damaged()
            ? Verdict.DAMAGED
            : reading.doubtful() ? Verdict.DOUBTFUL : Verdict.INTACT;
    return new HealthReport(verdict, List.copyOf(reading.findings()), reading.inventory());
  }

  private static HealthReport opaque(SeekableByteChannel in) throws IOException {
    List<Finding> findings = new ArrayList<>();
    long size = in.size();
    if (size == 0) {
      findings.add(Finding.doubtful("empty", 0, "The file is empty: 0 bytes."));
    } else {
      long zeros = zeroTail(in, size);
      if (zeros == size || zeros >= BLOCK) {
        findings.add(
            Finding.doubtful(
                "zero-tail", size - zeros, "Its last " + zeros + " bytes are all zero."));
      }
    }
    return new HealthReport(
        findings.isEmpty() ? Verdict.NO_FAULT : Verdict.DOUBTFUL, findings, Inventory.OPAQUE);
  }

  private static long zeroTail(SeekableByteChannel in, long size) throws IOException {
    ByteBuffer buffer = ByteBuffer.allocate(BLOCK);
    long zeros = 0;
    while (zeros < size) {
      int count = (int) Math.min(BLOCK, size - zeros);
      buffer.clear().limit(count);
      in.position(size - zeros - count);
      while (buffer.hasRemaining() && in.read(buffer) >= 0) {}
      for (int i = count - 1; i >= 0; i--) {
        if (buffer.get(i) != 0) {
          return zeros + (count - 1 - i);
        }
      }
      zeros += count;
    }
    return zeros;
  }
}
