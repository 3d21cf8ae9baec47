package dev.kavrin.core.bundle;

import com.fasterxml.jackson.annotation.JsonIgnore;
import dev.kavrin.core.content.Bytes;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/**
 * Where the samples of an uncompressed picture stand in its file: eight bits each, row after row.
 *
 * @param channels 1 for grey, 3 for colour
 * @param offset first byte of the first row
 * @param stride bytes from one row to the next; what is beyond the samples is zero
 * @param bottomUp true if the lowest row stands first
 * @param blueFirst true if a point is blue, green, red
 */
public record Samples(
    int width,
    int height,
    int channels,
    long offset,
    int stride,
    boolean bottomUp,
    boolean blueFirst) {
  /** Both sides of it are in memory at once. */
  private static final long MOST_POINTS = 16_000_000;

  private static final int MOST_TAGS = 200;

  long end() {
    return offset + (long) stride * height;
  }

  /** True if it can be held in memory, and its numbers fit each other. */
  @JsonIgnore
  boolean isSmall() {
    return width > 0
        && height > 0
        && (channels == 1 || channels == 3)
        && (long) width * height <= MOST_POINTS
        && stride >= rowBytes()
        && stride - rowBytes() < 4;
  }

  int rowBytes() {
    return width * channels;
  }

  /** Empty for anything but a plain picture of a kind that is known. */
  static Optional<Samples> of(SeekableByteChannel in) throws IOException {
    ByteBuffer head = Bytes.head(in, 64);
    if (head.limit() < 64) {
      return Optional.empty();
    }
    Optional<Samples> found =
        head.get(0) == 'B' && head.get(1) == 'M'
            ? bitmap(head)
            : isTiff(head) ? tiff(in, head.get(0) == 'M') : Optional.empty();
    return found.filter(Samples::isSmall).filter(s -> s.end() <= size(in));
  }

  private static long size(SeekableByteChannel in) {
    try {
      return in.size();
    } catch (IOException unreadable) {
      return -1;
    }
  }

  /** 24 bits a point, not packed; common practice, the format has no published standard. */
  private static Optional<Samples> bitmap(ByteBuffer head) {
    int height = head.getInt(22);
    boolean plain =
        head.getInt(14) >= 40
            && head.getShort(26) == 1
            && head.getShort(28) == 24
            && head.getInt(30) == 0
            && height > Integer.MIN_VALUE;
    int width = head.getInt(18);
    if (!plain || width <= 0 || width > MOST_POINTS) {
      return Optional.empty();
    }
    int stride = (3 * width + 3) / 4 * 4;
    long offset = Integer.toUnsignedLong(head.getInt(10));
    return Optional.of(new Samples(width, Math.abs(height), 3, offset, stride, height > 0, true));
  }

  private static boolean isTiff(ByteBuffer head) {
    return head.get(0) == 'I' && head.get(1) == 'I' && head.get(2) == 42
        || head.get(0) == 'M' && head.get(1) == 'M' && head.get(3) == 42;
  }

  /** Source: TIFF 6.0, sections 2, 4 and 6: baseline grey and colour without compression. */
  private static Optional<Samples> tiff(SeekableByteChannel in, boolean bigEndian)
      throws IOException {
    ByteOrder order = bigEndian ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN;
    long at = Integer.toUnsignedLong(Bytes.at(in, 4, 4).order(order).getInt());
    if (at + 2 > in.size()) {
      return Optional.empty();
    }
    int count = Short.toUnsignedInt(Bytes.at(in, at, 2).order(order).getShort());
    if (count > MOST_TAGS || at + 2 + 12L * count + 4 > in.size()) {
      return Optional.empty();
    }
    ByteBuffer entries = Bytes.at(in, at + 2, 12 * count + 4).order(order);
    Map<Integer, long[]> tags = new HashMap<>();
    for (int i = 0; i < count; i++) {
      long[] values = values(in, entries, 12 * i, order);
      if (values != null) {
        tags.put(Short.toUnsignedInt(entries.getShort(12 * i)), values);
      }
    }
    boolean single = entries.getInt(12 * count) == 0;
    int channels = (int) one(tags, 277, 1);
    long photometric = one(tags, 262, -1);
    boolean plain =
        single
            && one(tags, 259, 1) == 1
            && one(tags, 284, 1) == 1
            && (channels == 1 && photometric == 1 || channels == 3 && photometric == 2)
            && all(tags.get(258), 8)
            && one(tags, 256, 0) * channels <= Integer.MAX_VALUE
            && tags.containsKey(273)
            && tags.containsKey(279);
    if (!plain) {
      return Optional.empty();
    }
    long[] offsets = tags.get(273);
    long[] counts = tags.get(279);
    long bytes = 0;
    for (int i = 0; i < offsets.length; i++) {
      if (i >= counts.length || offsets[i] != offsets[0] + bytes) {
        return Optional.empty();
      }
      bytes += counts[i];
    }
    int width = (int) one(tags, 256, 0);
    int height = (int) one(tags, 257, 0);
    return bytes == (long) width * height * channels
        ? Optional.of(
            new Samples(width, height, channels, offsets[0], width * channels, false, false))
        : Optional.empty();
  }

  private static long one(Map<Integer, long[]> tags, int tag, long otherwise) {
    long[] values = tags.get(tag);
    return values == null || values.length == 0 ? otherwise : values[0];
  }

  private static boolean all(long[] values, long wanted) {
    boolean all = values != null && values.length > 0;
    for (int i = 0; all && i < values.length; i++) {
      all = values[i] == wanted;
    }
    return all;
  }

  /** Whole numbers of two or four bytes; null for other types and for what lies nowhere. */
  private static long[] values(
      SeekableByteChannel in, ByteBuffer entries, int from, ByteOrder order) throws IOException {
    int type = entries.getShort(from + 2);
    int width = type == 3 ? 2 : type == 4 ? 4 : 0;
    long count = Integer.toUnsignedLong(entries.getInt(from + 4));
    if (width == 0 || count > 1_000_000) {
      return null;
    }
    ByteBuffer at = entries;
    int base = from + 8;
    if (count * width > 4) {
      long lies = Integer.toUnsignedLong(entries.getInt(from + 8));
      if (lies + count * width > in.size()) {
        return null;
      }
      at = Bytes.at(in, lies, (int) (count * width)).order(order);
      base = 0;
    }
    long[] values = new long[(int) count];
    for (int i = 0; i < count; i++) {
      values[i] =
          width == 2
              ? Short.toUnsignedLong(at.getShort(base + 2 * i))
              : Integer.toUnsignedLong(at.getInt(base + 4 * i));
    }
    return values;
  }
}
