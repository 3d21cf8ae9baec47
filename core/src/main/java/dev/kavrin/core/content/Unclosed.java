package dev.kavrin.core.content;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;

/** Lends a channel to a library that would close it. */
public final class Unclosed implements SeekableByteChannel {
  private final SeekableByteChannel channel;

  public Unclosed(SeekableByteChannel channel) {
    this.channel = channel;
  }

  @Override
  public int read(ByteBuffer target) throws IOException {
    return channel.read(target);
  }

  @Override
  public int write(ByteBuffer source) {
    throw new java.nio.channels.NonWritableChannelException();
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
  public SeekableByteChannel truncate(long size) {
    throw new java.nio.channels.NonWritableChannelException();
  }

  @Override
  public boolean isOpen() {
    return channel.isOpen();
  }

  @Override
  public void close() {}
}
