package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;

/** A file being read in a folder that may stop answering; read by blocks. */
final class AnsweringChannel extends ForwardingChannel {
  private static final int BLOCK = 1 << 19;
  private static final int LEAST = 64;

  private final Answering folder;
  private final SeekableByteChannel in;
  private final ByteBuffer block;
  private long position;

  private AnsweringChannel(Answering folder, SeekableByteChannel in, ByteBuffer block) {
    super(in);
    this.folder = folder;
    this.in = in;
    this.block = block;
  }

  static AnsweringChannel open(Answering folder, Answering.Ask<SeekableByteChannel> opening)
      throws IOException {
    return folder.quickly(
        () -> {
          SeekableByteChannel in = opening.of();
          int size = (int) Math.min(BLOCK, Math.max(LEAST, in.size() + 1));
          return new AnsweringChannel(folder, in, ByteBuffer.allocate(size).limit(0));
        });
  }

  @Override
  public int read(ByteBuffer target) throws IOException {
    if (!target.hasRemaining()) {
      return 0;
    }
    if (!block.hasRemaining() && fill() < 0) {
      return -1;
    }
    int count = Math.min(target.remaining(), block.remaining());
    target.put(target.position(), block, block.position(), count);
    target.position(target.position() + count);
    block.position(block.position() + count);
    position += count;
    return count;
  }

  private int fill() throws IOException {
    long from = position;
    block.clear();
    try {
      int count =
          folder.patiently(
              () -> {
                in.position(from);
                return in.read(block);
              });
      block.flip();
      return count;
    } catch (IOException | RuntimeException failed) {
      block.limit(0);
      throw failed;
    }
  }

  @Override
  public long position() {
    return position;
  }

  @Override
  public SeekableByteChannel position(long at) {
    block.limit(block.position());
    position = at;
    return this;
  }

  @Override
  public long size() throws IOException {
    return folder.quickly(in::size);
  }

  @Override
  public void close() throws IOException {
    Answering.Ask<Void> closing =
        () -> {
          in.close();
          return null;
        };
    if (folder.answers()) {
      folder.patiently(closing);
    } else {
      folder.later(closing);
    }
  }
}
