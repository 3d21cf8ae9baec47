package dev.kavrin.core.pack;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdCompressCtx;
import dev.kavrin.core.disk.Sink;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Writes a pack, chunk by chunk. Not for use by two threads. */
public final class PackWriter implements AutoCloseable {
  static final int LEVEL = 3;

  private final Sink sink;
  private final int scale;
  private final List<PackIndex.Frame> frames = new ArrayList<>();
  private final ZstdCompressCtx zstd = new ZstdCompressCtx();
  private byte[] packed = new byte[1 << 17];
  private long offset;

  /**
   * @param sink stays open
   * @param scale of the cuts
   */
  public PackWriter(Sink sink, int scale) {
    this.sink = sink;
    this.scale = scale;
    zstd.setLevel(LEVEL);
    zstd.setChecksum(true);
    zstd.setContentSize(true);
  }

  /** Writes a chunk; where it stands now. */
  public PackIndex.Frame add(Chunk chunk, byte[] bytes, int from) throws IOException {
    int most = (int) Zstd.compressBound(chunk.length());
    if (packed.length < most) {
      packed = new byte[most];
    }
    int length = zstd.compressByteArray(packed, 0, packed.length, bytes, from, chunk.length());
    return put(chunk, packed, length);
  }

  /** Writes a chunk as it was packed already; where it stands now. */
  public PackIndex.Frame copy(Chunk chunk, byte[] bytes) throws IOException {
    return put(chunk, bytes, bytes.length);
  }

  private PackIndex.Frame put(Chunk chunk, byte[] bytes, int length) throws IOException {
    sink.write(bytes, 0, length);
    PackIndex.Frame frame = new PackIndex.Frame(chunk, offset, length);
    frames.add(frame);
    offset += length;
    return frame;
  }

  /** Writes what stands at the end of a pack. */
  public PackIndex end() throws IOException {
    PackIndex index = new PackIndex(scale, frames);
    index.write(sink);
    return index;
  }

  @Override
  public void close() {
    zstd.close();
  }
}
