package dev.kavrin.core.health;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.DrawingReader;
import dev.kavrin.core.content.FieldReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.Formats;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.mesh.ShapeReader;
import dev.kavrin.core.content.mesh.Shapes;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.Optional;

/** What is read of a file and what there is to see of it, by its format. */
public final class Readers {
  private Readers() {}

  /**
   * @param name proper name of the file
   * @return empty for a kind nobody reads
   */
  public static Optional<ContentReader> of(SeekableByteChannel in, String name) throws IOException {
    return Formats.of(in, name).map(Format::reader);
  }

  private static Optional<ContentReader> named(String name) {
    return Formats.named(name).map(Format::reader);
  }

  /** True if files of that name have shapes that can be drawn. */
  public static boolean hasShapes(String name) {
    return named(name).filter(ShapeReader.class::isInstance).isPresent();
  }

  /** What there is to see of a file. */
  public enum Shows {
    MODEL,
    DRAWING,
    FIELD,
    PICTURE,
    NUMBERS
  }

  /** What files of that name show. */
  public static Shows shows(String name) {
    ContentReader reader = named(name).orElse(null);
    if (reader instanceof ShapeReader) {
      return Shows.MODEL;
    }
    if (reader instanceof DrawingReader) {
      return Shows.DRAWING;
    }
    if (reader instanceof FieldReader) {
      return Shows.FIELD;
    }
    return isRaster(name) ? Shows.PICTURE : Shows.NUMBERS;
  }

  /** True if files of that name are pictures. */
  public static boolean isRaster(String name) {
    return Formats.named(name).filter(Format::isPicture).isPresent();
  }

  /** The shapes in a file; none if its kind has none. */
  public static Shapes shapes(SeekableByteChannel in, String name, SiblingFiles beside)
      throws IOException {
    return of(in, name).orElse(null) instanceof ShapeReader reader
        ? reader.shapes(in, beside)
        : Shapes.NONE;
  }
}
