package dev.kavrin.core.picture;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.DrawingReader;
import dev.kavrin.core.content.FieldReader;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.Slice;
import dev.kavrin.core.content.mesh.ShapeReader;
import dev.kavrin.core.content.mesh.Shapes;
import dev.kavrin.core.health.Readers;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.Optional;

/** A small picture of what a file shows, whatever its kind. */
public final class Pictures {
  private Pictures() {}

  /**
   * Draws what can be read; the same bytes for the same file, on every machine.
   *
   * @param name proper name; its ending chooses the reader
   * @return PNG with transparency, empty if there is nothing to see
   * @throws IOException the device failed
   */
  public static Optional<byte[]> draw(
      SeekableByteChannel in, String name, SiblingFiles beside, Frame frame) throws IOException {
    ContentReader reader = Readers.of(in, name).orElse(null);
    if (reader instanceof ShapeReader shaped) {
      try (Shapes shapes = shaped.shapes(in, beside)) {
        return Optional.ofNullable(new ModelPicture().draw(shapes, frame)).map(Canvas::png);
      }
    }
    if (reader instanceof DrawingReader drawn) {
      return Optional.ofNullable(DrawingPicture.draw(drawn.lines(in), frame)).map(Canvas::png);
    }
    if (reader instanceof FieldReader fields) {
      Optional<Slice> slice = fields.slice(in);
      return slice.map(s -> FieldPicture.draw(s, frame.width(), frame.height()).png());
    }
    return Readers.isRaster(name)
        ? Optional.ofNullable(RasterPicture.draw(in, frame.width(), frame.height()))
        : Optional.empty();
  }
}
