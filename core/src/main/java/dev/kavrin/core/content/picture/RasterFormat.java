package dev.kavrin.core.content.picture;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;

/** Other pictures made of dots. */
public final class RasterFormat implements Format {
  @Override
  public ContentReader reader() {
    return new RasterReader();
  }

  @Override
  public boolean isPicture() {
    return true;
  }
}
