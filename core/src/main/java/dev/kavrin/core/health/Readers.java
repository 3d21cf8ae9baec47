package dev.kavrin.core.health;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.DrawingReader;
import dev.kavrin.core.content.FieldReader;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.archive.StreamReader;
import dev.kavrin.core.content.archive.ZipReader;
import dev.kavrin.core.content.database.SqliteReader;
import dev.kavrin.core.content.dxf.DxfReader;
import dev.kavrin.core.content.field.VtkReader;
import dev.kavrin.core.content.field.VtkXmlReader;
import dev.kavrin.core.content.gltf.GlbReader;
import dev.kavrin.core.content.hdf5.Hdf5Reader;
import dev.kavrin.core.content.json.JsonReader;
import dev.kavrin.core.content.markup.SvgReader;
import dev.kavrin.core.content.markup.XmlReader;
import dev.kavrin.core.content.mesh.MtlReader;
import dev.kavrin.core.content.mesh.ObjReader;
import dev.kavrin.core.content.mesh.PlyReader;
import dev.kavrin.core.content.mesh.ShapeReader;
import dev.kavrin.core.content.mesh.Shapes;
import dev.kavrin.core.content.mesh.StlReader;
import dev.kavrin.core.content.picture.PngReader;
import dev.kavrin.core.content.picture.RasterReader;
import dev.kavrin.core.content.sound.RiffReader;
import dev.kavrin.core.content.table.CsvReader;
import dev.kavrin.core.content.text.Headings;
import dev.kavrin.core.content.text.TextReader;
import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.List;
import java.util.Optional;

/**
 * The readers there are, and which of them a file is for: by its ending, else by its first bytes.
 */
public final class Readers {
  private static final List<ContentReader> READERS =
      List.of(
          new GlbReader(),
          new DxfReader(),
          new JsonReader(),
          new Hdf5Reader(),
          new ObjReader(),
          new MtlReader(),
          new StlReader(),
          new PlyReader(),
          new VtkReader(),
          new VtkXmlReader(),
          new ZipReader(Readers::packed),
          StreamReader.gzip(),
          StreamReader.zstandard(),
          new PngReader(),
          new RiffReader(),
          new SqliteReader(),
          new RasterReader(),
          new CsvReader(),
          new SvgReader(),
          new XmlReader(),
          new TextReader(Headings.BRACKETS),
          new TextReader(Headings.SIGNS),
          new TextReader(Headings.KEYWORDS));
  private static final int HEAD = 64;

  private Readers() {}

  /**
   * @param name proper name of the file
   * @return empty for a kind nobody reads
   */
  public static Optional<ContentReader> of(SeekableByteChannel in, String name) throws IOException {
    String ext = FileName.of(name).lowerExt();
    for (ContentReader reader : READERS) {
      if (reader.reads(ext)) {
        return Optional.of(reader);
      }
    }
    ByteBuffer head = Bytes.head(in, HEAD);
    return READERS.stream().filter(r -> r.recognises(head)).findFirst();
  }

  /** For what is packed into an archive: anything but another archive. */
  private static Optional<ContentReader> packed(String name) {
    String ext = FileName.of(name).lowerExt();
    return READERS.stream()
        .filter(r -> r.reads(ext) && !(r instanceof ZipReader || r instanceof StreamReader))
        .findFirst();
  }

  /** True if files of that name have shapes that can be drawn. */
  public static boolean hasShapes(String name) {
    String ext = FileName.of(name).lowerExt();
    return READERS.stream().anyMatch(r -> r instanceof ShapeReader && r.reads(ext));
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
    String ext = FileName.of(name).lowerExt();
    ContentReader reader = READERS.stream().filter(r -> r.reads(ext)).findFirst().orElse(null);
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
    String ext = FileName.of(name).lowerExt();
    return READERS.stream()
        .anyMatch(r -> (r instanceof RasterReader || r instanceof PngReader) && r.reads(ext));
  }

  /** The shapes in a file; none if its kind has none. */
  public static Shapes shapes(SeekableByteChannel in, String name, SiblingFiles beside)
      throws IOException {
    return of(in, name).orElse(null) instanceof ShapeReader reader
        ? reader.shapes(in, beside)
        : Shapes.NONE;
  }
}
