package dev.kavrin.core.content.picture;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import java.util.Optional;

/** PNG (ISO/IEC 15948). */
public final class PngFormat implements Format {
  @Override
  public ContentReader reader() {
    return new PngReader();
  }

  @Override
  public Optional<String> ending() {
    return Optional.of("png");
  }

  @Override
  public boolean isPicture() {
    return true;
  }
}
