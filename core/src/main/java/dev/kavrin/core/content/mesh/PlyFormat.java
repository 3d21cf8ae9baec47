package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.PartWriter;
import java.util.Optional;

/** PLY, as text and in numbers. */
public final class PlyFormat implements Format {
  @Override
  public ContentReader reader() {
    return new PlyReader();
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(new PlyParts());
  }

  @Override
  public boolean zerosPass() {
    return true;
  }
}
