package dev.kavrin.core.content.sound;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;

/** RIFF: sound, moving pictures, WebP. */
public final class RiffFormat implements Format {
  @Override
  public ContentReader reader() {
    return new RiffReader();
  }
}
