package dev.kavrin.core.content.json;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.PartWriter;
import java.util.Optional;

/** JSON (RFC 8259). */
public final class JsonFormat implements Format {
  @Override
  public ContentReader reader() {
    return new JsonReader();
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(new JsonParts());
  }
}
