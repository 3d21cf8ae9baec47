package dev.kavrin.core.content.field;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;

/** Legacy VTK files. */
public final class VtkFormat implements Format {
  @Override
  public ContentReader reader() {
    return new VtkReader();
  }
}
