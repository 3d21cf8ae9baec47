package dev.kavrin.core.disk;

import jakarta.annotation.Nullable;
import java.io.IOException;

/**
 * A file being written in a folder that may stop answering. Written one block behind, so that the
 * device works while the next block is made; a failure is told by the next write, flush or close.
 */
final class AnsweringSink implements Sink {
  private static final int BLOCK = 1 << 19;

  /** What is small, as a line of a journal, needs no large block. */
  private static final int SMALL = 1 << 13;

  private final Answering folder;
  private final Sink sink;
  private byte[] block = new byte[SMALL];
  private byte[] spare = new byte[0];
  private int filled;
  @Nullable private Answering.Call<Void> behind;

  AnsweringSink(Answering folder, Sink sink) {
    this.folder = folder;
    this.sink = sink;
  }

  @Override
  public void write(byte[] bytes, int offset, int count) throws IOException {
    int from = offset;
    int left = count;
    while (left > 0) {
      int part = Math.min(left, block.length - filled);
      System.arraycopy(bytes, from, block, filled, part);
      filled += part;
      from += part;
      left -= part;
      if (filled == block.length) {
        pass();
      }
    }
  }

  private void pass() throws IOException {
    settle();
    byte[] full = block;
    int count = filled;
    behind =
        folder.begin(
            () -> {
              sink.write(full, 0, count);
              return null;
            });
    block = spare.length == BLOCK ? spare : new byte[BLOCK];
    spare = full;
    filled = 0;
  }

  private void settle() throws IOException {
    Answering.Call<Void> before = behind;
    behind = null;
    if (before != null) {
      folder.finish(before);
    }
  }

  @Override
  public void flush() throws IOException {
    settle();
    int count = filled;
    folder.patiently(
        () -> {
          sink.write(block, 0, count);
          sink.flush();
          return null;
        });
    filled = 0;
  }

  @Override
  public void close() throws IOException {
    if (!folder.answers()) {
      folder.later(this::closeNow);
      return;
    }
    try {
      settle();
    } catch (IOException | RuntimeException failed) {
      folder.later(this::closeNow);
      throw failed;
    }
    int count = filled;
    filled = 0;
    folder.patiently(
        () -> {
          try (Sink closing = sink) {
            closing.write(block, 0, count);
          }
          return null;
        });
  }

  @Nullable
  private Void closeNow() throws IOException {
    sink.close();
    return null;
  }
}
