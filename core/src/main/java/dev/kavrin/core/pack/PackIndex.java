package dev.kavrin.core.pack;

import com.dynatrace.hash4j.hashing.Hashing;
import dev.kavrin.core.disk.Sink;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;

/**
 * Which chunks a pack holds, in the order they stand in it, one behind the other from its first
 * byte: a Zstandard frame each. The index itself is a skippable frame at the end, so that a pack is
 * a whole Zstandard file (RFC 8878, sections 3.1.1 and 3.1.2). docs/formats.md tells its bytes.
 *
 * @param scale of the cuts, see {@link dev.kavrin.core.chunk.Chunks}
 */
public record PackIndex(int scale, List<Frame> frames) {
  /** One of the sixteen that RFC 8878, section 3.1.2, leaves to others. */
  private static final int SKIPPABLE = 0x184D2A5B;

  private static final long SIGN = 0x3130_6B63_6170_766BL; // "kvpack01"
  private static final int HEAD = 8;
  private static final int ENTRY = 24;
  private static final int TAIL = 24;

  /**
   * A chunk in its place.
   *
   * @param offset of its frame, bytes from the start of the pack
   * @param packed bytes of its frame
   */
  public record Frame(Chunk chunk, long offset, int packed) {
    public long end() {
      return offset + packed;
    }
  }

  public PackIndex {
    frames = List.copyOf(frames);
  }

  /** Bytes of all frames. */
  public long end() {
    return frames.isEmpty() ? 0 : frames.get(frames.size() - 1).end();
  }

  void write(Sink sink) throws IOException {
    ByteBuffer out = buffer(HEAD + ENTRY * frames.size() + TAIL);
    out.putInt(SKIPPABLE).putInt(out.capacity() - HEAD);
    for (Frame frame : frames) {
      out.putLong(frame.chunk.high()).putLong(frame.chunk.low());
      out.putInt(frame.packed).putInt(frame.chunk.length());
    }
    int end = out.position();
    out.putInt(frames.size()).putInt(scale);
    out.putLong(sum(out.array(), HEAD, end - HEAD)).putLong(SIGN);
    sink.write(out.array(), 0, out.capacity());
  }

  private static ByteBuffer buffer(int size) {
    return ByteBuffer.allocate(size).order(ByteOrder.LITTLE_ENDIAN);
  }

  private static long sum(byte[] bytes, int from, int length) {
    return Hashing.xxh3_64().hashBytesToLong(bytes, from, length);
  }

  /**
   * Reads the index of an open pack.
   *
   * @param name of the pack, for words
   * @throws DamagedPackException it is no pack, or not what was written
   */
  public static PackIndex read(SeekableByteChannel in, String name) throws IOException {
    long size = in.size();
    ByteBuffer tail = read(in, Math.max(0, size - TAIL), TAIL, name);
    int count = tail.getInt();
    int scale = tail.getInt();
    long sum = tail.getLong();
    long from = size - TAIL - (long) ENTRY * count;
    if (tail.getLong() != SIGN || count < 0 || from < HEAD || count > Integer.MAX_VALUE / ENTRY) {
      throw new DamagedPackException(name + " has no index at its end");
    }
    ByteBuffer entries = read(in, from, ENTRY * count, name);
    if (sum(entries.array(), 0, entries.capacity()) != sum) {
      throw new DamagedPackException("The index of " + name + " is not what was written");
    }
    List<Frame> frames = new ArrayList<>(count);
    long offset = 0;
    for (int i = 0; i < count; i++) {
      long high = entries.getLong();
      long low = entries.getLong();
      int packed = entries.getInt();
      frames.add(new Frame(new Chunk(entries.getInt(), high, low), offset, packed));
      offset += packed;
    }
    if (offset != from - HEAD) {
      throw new DamagedPackException(name + " is longer or shorter than its index says");
    }
    return new PackIndex(scale, frames);
  }

  private static ByteBuffer read(SeekableByteChannel in, long from, int length, String name)
      throws IOException {
    ByteBuffer bytes = buffer(length);
    in.position(from);
    while (bytes.hasRemaining()) {
      if (in.read(bytes) < 0) {
        throw new DamagedPackException(name + " ends too early");
      }
    }
    return bytes.flip();
  }

  /**
   * The frames of a range.
   *
   * @throws DamagedPackException it does not begin and end with frames of this pack
   */
  public List<Frame> in(Recipe.Range range) throws DamagedPackException {
    int first = at(range.offset());
    int last = first;
    long end = range.offset() + range.packed();
    long length = 0;
    while (first >= 0 && last < frames.size() && frames.get(last).offset < end) {
      length += frames.get(last).chunk.length();
      last++;
    }
    if (first < 0
        || last == first
        || length != range.length()
        || frames.get(last - 1).end() != end) {
      throw new DamagedPackException(range.pack() + " does not hold what a recipe needs of it");
    }
    return frames.subList(first, last);
  }

  /** The place of the frame that begins at an offset; negative if none does. */
  private int at(long offset) {
    int low = 0;
    int high = frames.size() - 1;
    while (low <= high) {
      int middle = (low + high) >>> 1;
      int order = Long.compare(frames.get(middle).offset, offset);
      if (order == 0) {
        return middle;
      }
      if (order < 0) {
        low = middle + 1;
      } else {
        high = middle - 1;
      }
    }
    return -1;
  }
}
