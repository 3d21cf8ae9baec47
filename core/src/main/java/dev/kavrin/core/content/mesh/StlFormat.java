package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;

/** STL, as text and in numbers. */
public final class StlFormat implements Format {
  @Override
  public ContentReader reader() {
    return new StlReader();
  }

  @Override
  public boolean zerosPass() {
    return true;
  }
}
