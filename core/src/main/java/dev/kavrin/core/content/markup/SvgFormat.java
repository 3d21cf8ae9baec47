package dev.kavrin.core.content.markup;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.LinkWriter;
import dev.kavrin.core.content.PartWriter;
import java.util.Optional;

/** SVG drawings. */
public final class SvgFormat implements Format {
  @Override
  public ContentReader reader() {
    return new SvgReader();
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(MarkupParts.ofSvg());
  }

  @Override
  public Optional<LinkWriter> links() {
    return Optional.of(new MarkupLinks());
  }
}
