package dev.kavrin.core.bundle;

import dev.kavrin.core.disk.Sink;
import java.io.IOException;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import org.apache.commons.compress.archivers.zip.Zip64Mode;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;

/**
 * A ZIP with everything in one folder, as RFC 8493 wants it (section 4.2.1); names in UTF-8.
 *
 * @param top name of that folder
 */
record ZipShelf(ZipArchiveOutputStream zip, String top) implements Shelf {
  private static final long NANOS = 1_000_000_000L;

  static ZipArchiveOutputStream open(java.io.OutputStream out) {
    ZipArchiveOutputStream zip = new ZipArchiveOutputStream(out);
    zip.setUseZip64(Zip64Mode.AsNeeded);
    zip.setEncoding("UTF-8");
    zip.setUseLanguageEncodingFlag(true);
    return zip;
  }

  @Override
  public Put put(String path, Filling filling, Long modifiedNanos) throws IOException {
    ZipArchiveEntry entry = new ZipArchiveEntry(top + "/" + path);
    if (modifiedNanos != null) {
      entry.setLastModifiedTime(
          FileTime.from(
              Instant.ofEpochSecond(
                  Math.floorDiv(modifiedNanos, NANOS), Math.floorMod(modifiedNanos, NANOS))));
    }
    zip.putArchiveEntry(entry);
    Digesting passed = new Digesting(new Entry(zip));
    filling.into(passed);
    zip.closeArchiveEntry();
    return passed.put();
  }

  /** What goes into the entry that is open. */
  private record Entry(ZipArchiveOutputStream zip) implements Sink {
    @Override
    public void write(byte[] bytes, int offset, int count) throws IOException {
      zip.write(bytes, offset, count);
    }

    @Override
    public void flush() {}

    @Override
    public void close() {}
  }
}
