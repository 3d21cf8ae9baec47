package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;

/** One pass over a source: read, identify, write. Bounded memory whatever the size. */
public final class Copying {
  private static final int BUFFER = 1 << 20;

  private Copying() {}

  public static ContentId copy(Disk disk, Path source, Sink sink) throws IOException {
    ContentHash hash = new ContentHash();
    try (SeekableByteChannel in = disk.read(source)) {
      ByteBuffer buffer = ByteBuffer.allocate(BUFFER);
      while (in.read(buffer) >= 0) {
        sink.write(buffer.array(), 0, buffer.position());
        hash.add(buffer.array(), 0, buffer.position());
        buffer.clear();
      }
    }
    return hash.id();
  }
}
