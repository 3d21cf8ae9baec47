package dev.kavrin.core.content.archive;

import com.github.luben.zstd.ZstdInputStreamNoFinalizer;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.List;
import java.util.zip.GZIPInputStream;

/**
 * Files packed as one stream, unpacked to the end so that length and checksum are proven: gzip (RFC
 * 1952) and Zstandard (RFC 8878).
 */
public final class StreamReader implements ContentReader {
  /** Opens the packed stream. */
  private interface Unpacking {
    InputStream over(InputStream packed) throws IOException;
  }

  private final String format;
  private final List<String> endings;
  private final int magic;
  private final int magicBytes;
  private final Unpacking unpacking;

  private StreamReader(
      String format, List<String> endings, int magic, int magicBytes, Unpacking unpacking) {
    this.format = format;
    this.endings = endings;
    this.magic = magic;
    this.magicBytes = magicBytes;
    this.unpacking = unpacking;
  }

  public static StreamReader gzip() {
    return new StreamReader(
        "gzip", List.of("gz", "gzip"), 0x8b1f, 2, packed -> new GZIPInputStream(packed, 1 << 16));
  }

  public static StreamReader zstandard() {
    return new StreamReader(
        "zstd",
        List.of("zst", "zstd"),
        0xFD2FB528,
        4,
        packed -> new ZstdInputStreamNoFinalizer(packed));
  }

  @Override
  public boolean reads(String ext) {
    return endings.contains(ext);
  }

  @Override
  public boolean recognises(ByteBuffer head) {
    return head.remaining() >= 4
        && (magicBytes == 2
            ? Short.toUnsignedInt(head.getShort(0)) == magic
            : head.getInt(0) == magic);
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Readings readings = new Readings(format);
    if (in.size() == 0) {
      return readings.empty();
    }
    if (in.size() < 4 || !recognises(Bytes.head(in, 4))) {
      return readings.broken(0, "It does not begin like a " + format + " file.");
    }
    try (InputStream unpacked = unpacking.over(Bytes.from(in, 0))) {
      Bytes.drain(unpacked);
    } catch (EOFException cut) {
      return readings.cutShort(in.size(), "It ends before its packed stream does.");
    } catch (IOException broken) {
      String why = String.valueOf(broken.getMessage());
      return why.toLowerCase(java.util.Locale.ROOT).contains("truncated")
          ? readings.cutShort(in.size(), "It ends before its packed stream does.")
          : readings.broken(-1, "It cannot be unpacked: " + why);
    }
    return readings.done();
  }
}
