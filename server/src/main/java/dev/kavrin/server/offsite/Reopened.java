package dev.kavrin.server.offsite;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import software.amazon.awssdk.http.ContentStreamProvider;

/** Bytes that are opened anew each time they are sent; the last opening is closed with it. */
final class Reopened implements ContentStreamProvider, AutoCloseable {
  private final Opening opening;
  private InputStream open = InputStream.nullInputStream();

  /** Opens the bytes from their start. */
  interface Opening {
    InputStream open() throws IOException;
  }

  Reopened(Opening opening) {
    this.opening = opening;
  }

  @Override
  public InputStream newStream() {
    try {
      open.close();
      open = opening.open();
      return open;
    } catch (IOException unreadable) {
      throw new UncheckedIOException(unreadable);
    }
  }

  @Override
  public void close() throws IOException {
    open.close();
  }
}
