package dev.kavrin.core.content.markup;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.LinkWriter;
import dev.kavrin.core.content.PartWriter;
import java.util.Optional;

/** XML, COLLADA, X3D and KML among it. */
public final class XmlFormat implements Format {
  @Override
  public ContentReader reader() {
    return new XmlReader();
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(MarkupParts.ofXml());
  }

  @Override
  public Optional<LinkWriter> links() {
    return Optional.of(new MarkupLinks());
  }
}
