package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.LinkWriter;
import java.util.Optional;

/** Materials of OBJ files. */
public final class MtlFormat implements Format {
  @Override
  public ContentReader reader() {
    return new MtlReader();
  }

  @Override
  public Optional<LinkWriter> links() {
    return Optional.of(new ObjLinks());
  }
}
