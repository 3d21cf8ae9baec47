package dev.kavrin.core.disk;

import java.io.Closeable;
import java.io.IOException;

/** A file being written. Whoever asked for it closes it; closing does not flush. */
public interface Sink extends Closeable {
  void write(byte[] bytes, int offset, int count) throws IOException;

  /** Returns once the bytes written so far are on the device. */
  void flush() throws IOException;
}
