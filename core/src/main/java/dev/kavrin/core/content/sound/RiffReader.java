package dev.kavrin.core.content.sound;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;

/**
 * RIFF containers (sound, film, pictures): the length in the head, then chunk by chunk. Source:
 * "Multimedia Programming Interface and Data Specifications 1.0", 1991, "Resource Interchange File
 * Format".
 */
public final class RiffReader implements ContentReader {
  private static final int RIFF = 0x46464952;
  private static final int MOST_CHUNKS = 5_000;

  @Override
  public boolean reads(String ext) {
    return List.of("wav", "avi", "webp").contains(ext);
  }

  @Override
  public boolean recognises(ByteBuffer head) {
    return head.remaining() >= 4 && head.getInt(0) == RIFF;
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Readings readings = new Readings("riff");
    long size = in.size();
    if (size == 0) {
      return readings.empty();
    }
    if (size < 12) {
      return readings.cutShort(size, "Cut short inside its 12-byte head.");
    }
    ByteBuffer head = Bytes.at(in, 0, 12);
    if (head.getInt(0) != RIFF) {
      return readings.broken(0, "It does not begin like a RIFF file.");
    }
    long end = 8 + Integer.toUnsignedLong(head.getInt(4));
    if (end > size) {
      return readings.cutShort(
          size, "Its head tells of " + end + " bytes, but it ends after " + size + ".");
    }
    for (long at = 12; at < end; ) {
      if (at + 8 > end) {
        return readings.broken(at, "A chunk begins where no room is left for one.");
      }
      ByteBuffer chunk = Bytes.at(in, at, 8);
      String name = StandardCharsets.ISO_8859_1.decode(chunk.slice(0, 4)).toString();
      long length = Integer.toUnsignedLong(chunk.getInt(4));
      if (at + 8 + length > end || name.chars().anyMatch(c -> c < ' ' || c > '~')) {
        return readings.broken(at, "The chunk at byte " + at + " reaches beyond the end.");
      }
      if (readings.parts() < MOST_CHUNKS) {
        readings.part(
            Part.of(
                at + " " + name,
                null,
                name.strip(),
                "chunk",
                Map.of("bytes", new Measure(length, "B")),
                null));
      }
      at += 8 + length + (length & 1);
    }
    if (end + (end & 1) < size) {
      readings.found(Finding.doubtful("more-behind", end, "Something more stands behind its end."));
    }
    return readings.done();
  }
}
