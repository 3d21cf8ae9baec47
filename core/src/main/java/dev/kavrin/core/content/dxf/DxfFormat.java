package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.LinkWriter;
import dev.kavrin.core.content.PartWriter;
import java.util.Optional;

/** DXF in its text form. */
public final class DxfFormat implements Format {
  @Override
  public ContentReader reader() {
    return new DxfReader();
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(new DxfParts());
  }

  @Override
  public Optional<LinkWriter> links() {
    return Optional.of(new DxfLinks());
  }
}
