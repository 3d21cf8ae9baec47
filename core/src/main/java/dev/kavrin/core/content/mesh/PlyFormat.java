package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.PartWriter;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;

/** PLY, as text and in numbers. */
public final class PlyFormat implements Format {
  private static final String END = "\nend_header\n";
  private static final int LONGEST_HEAD = 1 << 16;
  private static final int WIDEST = 8;

  @Override
  public ContentReader reader() {
    return new PlyReader();
  }

  @Override
  public Optional<String> ending() {
    return Optional.of("ply");
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(new PlyParts());
  }

  /** All behind the head; what a point has besides its place may well be zero. */
  @Override
  public List<Dense> dense(SeekableByteChannel in) throws IOException {
    String head = StandardCharsets.ISO_8859_1.decode(Bytes.head(in, LONGEST_HEAD)).toString();
    int end = head.indexOf(END);
    int properties = head.substring(0, Math.max(0, end)).split("\nproperty ", -1).length - 1;
    return end < 0
        ? List.of()
        : List.of(new Dense(end + END.length(), in.size(), Dense.SHAPES + WIDEST * properties));
  }
}
