package dev.kavrin.core.content.picture;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Map;
import java.util.Optional;
import java.util.zip.CRC32;

/**
 * PNG, chunk by chunk against each checksum, to its end chunk. Source: W3C, Portable Network
 * Graphics (Third Edition), sections 5.2 to 5.6.
 */
public final class PngReader implements ContentReader {
  private static final long SIGNATURE = 0x89504E470D0A1A0AL;
  private static final int HEADER = 0x49484452;
  private static final int DATA = 0x49444154;
  private static final int TIME = 0x74494D45;
  private static final int END = 0x49454E44;
  private static final int BLOCK = 1 << 16;

  @Override
  public boolean reads(String ext) {
    return ext.equals("png");
  }

  @Override
  public boolean recognises(ByteBuffer head) {
    return head.remaining() >= 8 && Long.reverseBytes(head.getLong(0)) == SIGNATURE;
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Readings readings = new Readings("png");
    long size = in.size();
    if (size == 0) {
      return readings.empty();
    }
    if (size < 8 || !recognises(Bytes.head(in, 8))) {
      return readings
          .found(
              Finding.doubtful(
                  "not-png",
                  0,
                  "It does not begin like a PNG picture: damaged, or another kind under that"
                      + " ending."))
          .done();
    }
    CRC32 pixels = new CRC32();
    long width = 0;
    long height = 0;
    for (long at = 8; ; ) {
      if (at + 12 > size) {
        return readings.cutShort(size, "It ends before its end chunk.");
      }
      ByteBuffer head = Bytes.at(in, at, 8).order(ByteOrder.BIG_ENDIAN);
      long length = Integer.toUnsignedLong(head.getInt(0));
      int type = head.getInt(4);
      if (at == 8 && type != HEADER) {
        return readings.broken(at, "Its first chunk is not its header.");
      }
      if (at + 12 + length > size) {
        return readings.cutShort(size, "A chunk of " + length + " bytes is not there in full.");
      }
      long told = checksum(in, at + 4, length + 4, type == DATA ? pixels : null);
      long sum =
          Integer.toUnsignedLong(
              Bytes.at(in, at + 8 + length, 4).order(ByteOrder.BIG_ENDIAN).getInt());
      if (told != sum) {
        return readings.broken(at, "The chunk at byte " + at + " does not match its checksum.");
      }
      if (type == HEADER && length >= 8) {
        ByteBuffer sizes = Bytes.at(in, at + 8, 8).order(ByteOrder.BIG_ENDIAN);
        width = Integer.toUnsignedLong(sizes.getInt());
        height = Integer.toUnsignedLong(sizes.getInt());
      }
      if (type == TIME && length == 7) {
        time(Bytes.at(in, at + 8, 7).order(ByteOrder.BIG_ENDIAN)).ifPresent(readings::saved);
      }
      at += 12 + length;
      if (type == END) {
        if (at < size) {
          readings.found(
              Finding.doubtful("more-behind", at, "Something more stands behind its end."));
        }
        return readings
            .part(
                Part.of(
                    "picture",
                    null,
                    "picture",
                    "picture",
                    Map.of("width", new Measure(width, "px"), "height", new Measure(height, "px")),
                    Long.toHexString(pixels.getValue())))
            .done();
      }
    }
  }

  /** Last change of the picture, in universal time: section 11.3.4.5. */
  private static Optional<Instant> time(ByteBuffer told) {
    try {
      return Optional.of(
          LocalDateTime.of(
                  Short.toUnsignedInt(told.getShort()),
                  told.get(),
                  told.get(),
                  told.get(),
                  told.get(),
                  Math.min(59, told.get()))
              .toInstant(ZoneOffset.UTC));
    } catch (DateTimeException impossible) {
      return Optional.empty();
    }
  }

  private static long checksum(SeekableByteChannel in, long from, long length, CRC32 also)
      throws IOException {
    CRC32 sum = new CRC32();
    byte[] block = new byte[BLOCK];
    InputStream bytes = Bytes.from(in, from);
    for (long left = length; left > 0; ) {
      int n = bytes.read(block, 0, (int) Math.min(BLOCK, left));
      if (n < 0) {
        break;
      }
      sum.update(block, 0, n);
      if (also != null) {
        also.update(block, 0, n);
      }
      left -= n;
    }
    return sum.getValue();
  }
}
