package dev.kavrin.core.content;

import dev.kavrin.core.disk.ForwardingChannel;
import java.nio.channels.SeekableByteChannel;

/** Lends a channel to a library that would close it. */
public final class Unclosed extends ForwardingChannel {
  public Unclosed(SeekableByteChannel channel) {
    super(channel);
  }

  @Override
  public void close() {}
}
