package dev.kavrin.core.content.field;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;

/** VTK files in XML. */
public final class VtkXmlFormat implements Format {
  @Override
  public ContentReader reader() {
    return new VtkXmlReader();
  }
}
