package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;

/** Another channel, in all that is not overridden. */
public abstract class ForwardingChannel implements SeekableByteChannel {
  private final SeekableByteChannel channel;

  protected ForwardingChannel(SeekableByteChannel channel) {
    this.channel = channel;
  }

  @Override
  public int read(ByteBuffer target) throws IOException {
    return channel.read(target);
  }

  @Override
  public int write(ByteBuffer source) throws IOException {
    return channel.write(source);
  }

  @Override
  public long position() throws IOException {
    return channel.position();
  }

  @Override
  public SeekableByteChannel position(long at) throws IOException {
    channel.position(at);
    return this;
  }

  @Override
  public long size() throws IOException {
    return channel.size();
  }

  @Override
  public SeekableByteChannel truncate(long size) throws IOException {
    channel.truncate(size);
    return this;
  }

  @Override
  public boolean isOpen() {
    return channel.isOpen();
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }
}
