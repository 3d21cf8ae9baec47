package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.LinkWriter;
import dev.kavrin.core.content.PartWriter;
import java.util.Optional;

/** OBJ in its text form. */
public final class ObjFormat implements Format {
  @Override
  public ContentReader reader() {
    return new ObjReader();
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(new ObjParts());
  }

  @Override
  public Optional<LinkWriter> links() {
    return Optional.of(new ObjLinks());
  }
}
