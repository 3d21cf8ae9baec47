package dev.kavrin.core.compare;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.FieldReader;
import dev.kavrin.core.content.Fields;
import dev.kavrin.core.content.ItemReader;
import dev.kavrin.core.content.Items;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.mesh.ShapeReader;
import dev.kavrin.core.content.mesh.Shapes;
import dev.kavrin.core.health.Readers;
import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;

/** What stands behind the parts of a file, read when it is asked for. */
public final class Insides implements Closeable {
  /** Nothing beyond the inventory. */
  public static final Insides NONE = new Insides(null, null, SiblingFiles.NOTHING);

  private final ContentReader reader;
  private final SeekableByteChannel in;
  private final SiblingFiles beside;
  private Shapes shapes;
  private Items items;

  private Insides(ContentReader reader, SeekableByteChannel in, SiblingFiles beside) {
    this.reader = reader;
    this.in = in;
    this.beside = beside;
  }

  /**
   * @param in stays the caller's
   * @param name proper name of the file
   */
  static Insides of(SeekableByteChannel in, String name, SiblingFiles beside) throws IOException {
    return new Insides(Readers.of(in, name).orElse(null), in, beside);
  }

  Shapes shapes() throws IOException {
    if (shapes == null) {
      shapes = reader instanceof ShapeReader r ? r.shapes(in, beside) : Shapes.NONE;
    }
    return shapes;
  }

  Items items() throws IOException {
    if (items == null) {
      items = reader instanceof ItemReader r ? r.items(in) : Items.NONE;
    }
    return items;
  }

  Fields fields() {
    return reader instanceof FieldReader r ? r.fields(in) : Fields.NONE;
  }

  @Override
  public void close() throws IOException {
    if (shapes != null) {
      shapes.close();
    }
  }
}
