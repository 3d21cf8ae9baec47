package dev.kavrin.core.disk;

import java.io.IOException;
import java.io.OutputStream;

/** Lends a sink to code that writes into streams; closing it leaves the sink open. */
public final class SinkStream extends OutputStream {
  private final Sink sink;

  public SinkStream(Sink sink) {
    this.sink = sink;
  }

  @Override
  public void write(int one) throws IOException {
    sink.write(new byte[] {(byte) one}, 0, 1);
  }

  @Override
  public void write(byte[] bytes, int offset, int count) throws IOException {
    sink.write(bytes, offset, count);
  }
}
