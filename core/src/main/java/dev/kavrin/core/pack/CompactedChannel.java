package dev.kavrin.core.pack;

import com.github.luben.zstd.ZstdDecompressCtx;
import com.github.luben.zstd.ZstdException;
import dev.kavrin.core.disk.Disk;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.channels.NonWritableChannelException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A file that is put together from packs, read like any other. Each chunk is held against its
 * digest before a byte of it is given out. Not for use by two threads.
 */
final class CompactedChannel implements SeekableByteChannel {
  private static final int MOST_OPEN = 8;

  /** Read in one go of a pack that is read from front to back. */
  private static final int AHEAD = 1 << 20;

  /** A range with the places of its frames: where each begins in the file. */
  private record Opened(int range, List<PackIndex.Frame> frames, long[] starts) {}

  private record OpenPack(SeekableByteChannel bytes, PackIndex index) {}

  private final Disk disk;
  private final PackIndexes indexes;
  private final Path top;
  private final Recipe recipe;
  private final long[] starts;
  private final Map<String, OpenPack> packs = new LinkedHashMap<>(16, 0.75f, true);
  private Opened opened;
  private final ZstdDecompressCtx zstd = new ZstdDecompressCtx();
  private ByteBuffer ahead = ByteBuffer.allocate(0);
  private String aheadOf;
  private long aheadFrom;
  private byte[] chunk = new byte[0];
  private long chunkAt = -1;
  private long position;
  private boolean open = true;

  /**
   * @param top of the backup folder
   */
  CompactedChannel(Disk disk, PackIndexes indexes, Path top, Recipe recipe) {
    this.disk = disk;
    this.indexes = indexes;
    this.top = top;
    this.recipe = recipe;
    List<Recipe.Range> ranges = recipe.ranges();
    this.starts = new long[ranges.size()];
    for (int i = 1; i < starts.length; i++) {
      starts[i] = starts[i - 1] + ranges.get(i - 1).length();
    }
  }

  @Override
  public int read(ByteBuffer target) throws IOException {
    if (!open) {
      throw new ClosedChannelException();
    }
    if (position >= recipe.length()) {
      return -1;
    }
    int all = 0;
    while (target.hasRemaining() && position < recipe.length()) {
      if (chunkAt < 0 || position < chunkAt || position >= chunkAt + chunk.length) {
        load();
      }
      int from = (int) (position - chunkAt);
      int count = Math.min(target.remaining(), chunk.length - from);
      target.put(chunk, from, count);
      position += count;
      all += count;
    }
    return all;
  }

  private static int floor(long[] sorted, long value) {
    int found = Arrays.binarySearch(sorted, value);
    return found >= 0 ? found : -found - 2;
  }

  /** The chunk at the position. */
  private void load() throws IOException {
    int number = floor(starts, position);
    Recipe.Range range = recipe.ranges().get(number);
    OpenPack pack = pack(range.pack());
    if (opened == null || opened.range != number) {
      opened = opened(number, range, pack.index());
    }
    int at = floor(opened.starts, position);
    PackIndex.Frame frame = opened.frames.get(at);
    ByteBuffer packed = packed(pack, frame, range.pack());
    byte[] bytes = new byte[frame.chunk().length()];
    try {
      zstd.decompressByteArray(
          bytes, 0, bytes.length, packed.array(), packed.position(), frame.packed());
    } catch (ZstdException broken) {
      throw damaged(range.pack());
    }
    if (!Chunk.of(bytes, 0, bytes.length).equals(frame.chunk())) {
      throw damaged(range.pack());
    }
    chunk = bytes;
    chunkAt = opened.starts[at];
  }

  /** At the frame's first byte; what follows it is read with it while one goes straight on. */
  private ByteBuffer packed(OpenPack pack, PackIndex.Frame frame, String name) throws IOException {
    long end = frame.end();
    if (!name.equals(aheadOf) || frame.offset() < aheadFrom || end > aheadFrom + ahead.limit()) {
      boolean straightOn = name.equals(aheadOf) && frame.offset() == aheadFrom + ahead.limit();
      long all = straightOn ? Math.min(AHEAD, pack.index.end() - frame.offset()) : 0;
      int wanted = (int) Math.max(frame.packed(), all);
      if (ahead.capacity() < wanted) {
        ahead = ByteBuffer.allocate(wanted);
      }
      aheadOf = null;
      ahead.clear().limit(wanted);
      pack.bytes.position(frame.offset());
      while (ahead.hasRemaining()) {
        if (pack.bytes.read(ahead) < 0) {
          throw damaged(name);
        }
      }
      aheadOf = name;
      aheadFrom = frame.offset();
    }
    return ahead.position((int) (frame.offset() - aheadFrom));
  }

  private Opened opened(int number, Recipe.Range range, PackIndex index) throws IOException {
    List<PackIndex.Frame> frames = index.in(range);
    long[] begins = new long[frames.size()];
    long at = starts[number];
    for (int i = 0; i < begins.length; i++) {
      begins[i] = at;
      at += frames.get(i).chunk().length();
    }
    return new Opened(number, frames, begins);
  }

  private static DamagedPackException damaged(String pack) {
    return new DamagedPackException(
        pack + " is not what was written. Nothing was given out of the place that is damaged");
  }

  private OpenPack pack(String name) throws IOException {
    OpenPack known = packs.get(name);
    if (known != null) {
      return known;
    }
    if (packs.size() >= MOST_OPEN) {
      Iterator<OpenPack> oldest = packs.values().iterator();
      oldest.next().bytes.close();
      oldest.remove();
    }
    Path file = top.resolve(name);
    try {
      SeekableByteChannel bytes = disk.read(file);
      try {
        OpenPack pack = new OpenPack(bytes, indexes.of(file, bytes));
        packs.put(name, pack);
        return pack;
      } catch (IOException | RuntimeException failed) {
        bytes.close();
        throw failed;
      }
    } catch (NoSuchFileException gone) {
      throw new DamagedPackException(file + " is gone, and this file needs it");
    }
  }

  @Override
  public long position() {
    return position;
  }

  @Override
  public SeekableByteChannel position(long to) {
    if (to < 0) {
      throw new IllegalArgumentException("A position is not negative: " + to);
    }
    position = to;
    return this;
  }

  @Override
  public long size() {
    return recipe.length();
  }

  @Override
  public boolean isOpen() {
    return open;
  }

  @Override
  public void close() throws IOException {
    if (open) {
      zstd.close();
    }
    open = false;
    for (OpenPack pack : packs.values()) {
      pack.bytes.close();
    }
    packs.clear();
  }

  @Override
  public int write(ByteBuffer source) {
    throw new NonWritableChannelException();
  }

  @Override
  public SeekableByteChannel truncate(long size) {
    throw new NonWritableChannelException();
  }
}
