package dev.kavrin.core.disk;

import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;

/**
 * Another channel that remembers whether its device failed, whatever becomes of the exception on
 * its way through a library.
 */
public final class WatchedChannel extends ForwardingChannel {
  private IOException failure;

  public WatchedChannel(SeekableByteChannel channel) {
    super(channel);
  }

  @Override
  public int read(ByteBuffer target) throws IOException {
    try {
      return super.read(target);
    } catch (IOException failed) {
      failure = failed;
      throw failed;
    }
  }

  /** The last failure to read; null if there was none. */
  @Nullable
  public IOException failure() {
    return failure;
  }
}
