package dev.kavrin.core.content.archive;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.Unclosed;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.zip.CRC32;
import java.util.zip.CheckedInputStream;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.compress.utils.SeekableInMemoryByteChannel;

/**
 * ZIP archives, and project files that are ZIP archives inside: the end record, each local header
 * against the central directory, each entry's bytes against its checksum. Source: PKWARE APPNOTE
 * 6.3.10, sections 4.3.7, 4.3.12, 4.3.16.
 */
public final class ZipReader implements ContentReader {
  private static final int LOCAL = 0x04034b50;
  private static final int LOCAL_LENGTH = 30;
  private static final int END = 0x06054b50;
  private static final int END_LENGTH = 22;
  private static final int LONGEST_COMMENT = 65_535;
  private static final int MOST_PARTS = 5_000;
  private static final int LARGEST_WITHIN = 32_000_000;

  private final Function<String, Optional<ContentReader>> within;

  /**
   * @param within the reader for an entry of that name, if its content is to be read too
   */
  public ZipReader(Function<String, Optional<ContentReader>> within) {
    this.within = within;
  }

  @Override
  public boolean reads(String ext) {
    return ext.equals("zip");
  }

  @Override
  public boolean recognises(ByteBuffer head) {
    return head.remaining() >= 4 && (head.getInt(0) == LOCAL || head.getInt(0) == END);
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Readings readings = new Readings("zip");
    long size = in.size();
    if (size == 0) {
      return readings.empty();
    }
    long end = end(in);
    if (end < 0) {
      return readings.cutShort(size, "Its table of contents, which stands at the end, is missing.");
    }
    int comment = Short.toUnsignedInt(Bytes.at(in, end + 20, 2).getShort());
    if (end + END_LENGTH + comment != size) {
      return readings.cutShort(
          size, "Its end record asks for a comment that is not there in full.");
    }
    try (ZipFile zip =
        ZipFile.builder()
            .setSeekableByteChannel(new Unclosed(in))
            .setIgnoreLocalFileHeader(true)
            .get()) {
      List<ZipArchiveEntry> entries = java.util.Collections.list(zip.getEntriesInPhysicalOrder());
      int told = Short.toUnsignedInt(Bytes.at(in, end + 10, 2).getShort());
      if (told != 0xFFFF && told != entries.size()) {
        return readings.broken(
            end,
            "Its end record tells of "
                + told
                + " entries, its table holds "
                + entries.size()
                + ".");
      }
      for (ZipArchiveEntry entry : entries) {
        entry(zip, in, entry, readings);
      }
    } catch (IOException | RuntimeException broken) {
      return readings.broken(-1, "Its table of contents cannot be read: " + broken.getMessage());
    }
    return readings.done();
  }

  /** Where the end record begins, −1 if there is none. */
  private static long end(SeekableByteChannel in) throws IOException {
    int span = (int) Math.min(in.size(), END_LENGTH + LONGEST_COMMENT);
    if (span < END_LENGTH) {
      return -1;
    }
    ByteBuffer tail = Bytes.at(in, in.size() - span, span);
    for (int at = span - END_LENGTH; at >= 0; at--) {
      if (tail.getInt(at) == END) {
        return in.size() - span + at;
      }
    }
    return -1;
  }

  private void entry(ZipFile zip, SeekableByteChannel in, ZipArchiveEntry entry, Readings readings)
      throws IOException {
    long at = entry.getLocalHeaderOffset();
    ByteBuffer local = Bytes.at(in, at, LOCAL_LENGTH);
    byte[] name = entry.getRawName();
    int length = Short.toUnsignedInt(local.getShort(26));
    if (local.getInt(0) != LOCAL
        || length != name.length
        || local.getShort(8) != (short) entry.getMethod()
        || !Arrays.equals(Bytes.at(in, at + LOCAL_LENGTH, length).array(), name)) {
      readings.found(
          Finding.damaged(
              "local-header",
              at,
              "The entry " + entry.getName() + " is not where the table says."));
      return;
    }
    if (entry.isDirectory()) {
      return;
    }
    CRC32 sum = new CRC32();
    long read = -1;
    Optional<ContentReader> inner =
        entry.getSize() < LARGEST_WITHIN ? within.apply(entry.getName()) : Optional.empty();
    byte[] content = null;
    boolean readable = zip.canReadEntryData(entry);
    if (readable) {
      try (InputStream bytes = new CheckedInputStream(zip.getInputStream(entry), sum)) {
        if (inner.isPresent()) {
          content = bytes.readNBytes(LARGEST_WITHIN);
          read = content.length;
        } else {
          read = Bytes.drain(bytes);
        }
      } catch (IOException | RuntimeException broken) {
        readings.found(
            Finding.damaged(
                "entry-unreadable",
                at,
                "The entry " + entry.getName() + " cannot be unpacked: " + broken.getMessage()));
      }
      if (read >= 0 && (sum.getValue() != entry.getCrc() || read != entry.getSize())) {
        readings.found(
            Finding.damaged(
                "checksum", at, "The entry " + entry.getName() + " does not match its checksum."));
      }
    } else {
      readings.found(
          Finding.doubtful(
              "entry-locked",
              at,
              "The entry " + entry.getName() + " is packed in an unknown way."));
    }
    if (readings.parts() < MOST_PARTS) {
      readings.part(
          Part.of(
              entry.getName(),
              null,
              entry.getName(),
              "entry",
              Map.of("bytes", new Measure(entry.getSize(), "B")),
              Long.toHexString(entry.getCrc()) + ":" + entry.getSize()));
    }
    if (content != null && read == entry.getSize() && sum.getValue() == entry.getCrc()) {
      within(entry.getName(), inner.get(), content, readings);
    }
  }

  /** What stands in an entry whose format is known; its faults were packed as they are. */
  private static void within(String entry, ContentReader reader, byte[] content, Readings readings)
      throws IOException {
    Reading reading = reader.read(new SeekableInMemoryByteChannel(content));
    for (Part part : reading.inventory().parts()) {
      if (readings.parts() < MOST_PARTS) {
        readings.part(part.under(entry));
      }
    }
    if (reading.damaged()) {
      readings.found(
          Finding.doubtful(
              "entry-content", -1, "What is packed as " + entry + " is not whole in itself."));
    }
  }
}
