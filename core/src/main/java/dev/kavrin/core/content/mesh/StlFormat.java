package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.List;

/** STL, as text and in numbers. */
public final class StlFormat implements Format {
  @Override
  public ContentReader reader() {
    return new StlReader();
  }

  /** All behind the head, where it stands in numbers. */
  @Override
  public List<Dense> dense(SeekableByteChannel in) throws IOException {
    return List.of(new Dense(StlReader.HEADER, in.size(), Dense.SHAPES));
  }
}
