package dev.kavrin.core.bundle;

import dev.kavrin.core.disk.Sink;
import java.io.IOException;
import java.security.MessageDigest;

/** Where the files of a bag are put, one after the other. */
interface Shelf {
  /** What a file consists of; may be asked for more than once. */
  interface Filling {
    void into(Sink sink) throws IOException;
  }

  /**
   * What was put.
   *
   * @param digest SHA-256 in hex
   */
  record Put(String digest, long bytes) {}

  /**
   * @param path in the bag
   * @param modifiedNanos when it was written, null for now
   */
  Put put(String path, Filling filling, Long modifiedNanos) throws IOException;

  /** Takes in what passes on its way to a file, or to nowhere. */
  final class Digesting implements Sink {
    private final MessageDigest digest = Bag.digest(Bag.ALGORITHM);
    private final Sink sink;
    private long bytes;

    Digesting(Sink sink) {
      this.sink = sink;
    }

    Put put() {
      return new Put(Bag.hex(digest), bytes);
    }

    @Override
    public void write(byte[] block, int from, int count) throws IOException {
      digest.update(block, from, count);
      bytes += count;
      if (sink != null) {
        sink.write(block, from, count);
      }
    }

    @Override
    public void flush() throws IOException {
      if (sink != null) {
        sink.flush();
      }
    }

    @Override
    public void close() {}
  }
}
