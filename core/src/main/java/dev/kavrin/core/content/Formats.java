package dev.kavrin.core.content;

import dev.kavrin.core.content.archive.PackedStreamFormat;
import dev.kavrin.core.content.archive.ZipFormat;
import dev.kavrin.core.content.database.SqliteFormat;
import dev.kavrin.core.content.dxf.DxfFormat;
import dev.kavrin.core.content.field.VtkFormat;
import dev.kavrin.core.content.field.VtkXmlFormat;
import dev.kavrin.core.content.gltf.GltfFormat;
import dev.kavrin.core.content.hdf5.Hdf5Format;
import dev.kavrin.core.content.json.JsonFormat;
import dev.kavrin.core.content.markup.SvgFormat;
import dev.kavrin.core.content.markup.XmlFormat;
import dev.kavrin.core.content.mesh.MtlFormat;
import dev.kavrin.core.content.mesh.ObjFormat;
import dev.kavrin.core.content.mesh.PlyFormat;
import dev.kavrin.core.content.mesh.StlFormat;
import dev.kavrin.core.content.picture.PngFormat;
import dev.kavrin.core.content.picture.RasterFormat;
import dev.kavrin.core.content.sound.RiffFormat;
import dev.kavrin.core.content.table.CsvFormat;
import dev.kavrin.core.content.text.TextFormat;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * The formats there are, and which of them a file is of: by its ending, else by its first bytes.
 */
public final class Formats {
  private static final int HEAD = 64;

  private static final List<Format> ALL =
      List.of(
          new GltfFormat(),
          new DxfFormat(),
          new JsonFormat(),
          new Hdf5Format(),
          new ObjFormat(),
          new MtlFormat(),
          new StlFormat(),
          new PlyFormat(),
          new VtkFormat(),
          new VtkXmlFormat(),
          new ZipFormat(Formats::packed),
          PackedStreamFormat.GZIP,
          PackedStreamFormat.ZSTANDARD,
          new PngFormat(),
          new RiffFormat(),
          new SqliteFormat(),
          new RasterFormat(),
          new CsvFormat(),
          new SvgFormat(),
          new XmlFormat(),
          TextFormat.BRACKETS,
          TextFormat.SIGNS,
          TextFormat.KEYWORDS);

  private Formats() {}

  /**
   * @param name proper name of the file
   * @return empty for a format nobody reads
   */
  public static Optional<Format> of(SeekableByteChannel in, String name) throws IOException {
    Optional<Format> named = named(name);
    if (named.isPresent()) {
      return named;
    }
    return beginning(in);
  }

  private static Optional<Format> beginning(SeekableByteChannel in) throws IOException {
    ByteBuffer head = Bytes.head(in, HEAD);
    return ALL.stream().filter(f -> f.reader().recognises(head)).findFirst();
  }

  /**
   * The name under which programs open a file: with the ending that its content has where nobody
   * knows its own, "bell.glb~" is "bell.glb".
   */
  public static String openable(SeekableByteChannel in, String name) throws IOException {
    if (named(name).isPresent()) {
      return name;
    }
    String stem = FileName.of(name).stem();
    return beginning(in)
        .flatMap(Format::ending)
        .map(ending -> FileName.of(stem).lowerExt().equals(ending) ? stem : stem + "." + ending)
        .orElse(name);
  }

  /** By the ending of a name alone. */
  public static Optional<Format> named(String name) {
    return ending(FileName.of(name).lowerExt());
  }

  /**
   * @param ext lower case, without the dot
   */
  public static Optional<Format> ending(String ext) {
    return ALL.stream().filter(f -> f.reader().reads(ext)).findFirst();
  }

  /** For what is packed into an archive: anything but another archive. */
  private static Optional<ContentReader> packed(String name) {
    return named(name).filter(f -> !f.packs()).map(Format::reader);
  }

  /** What a copy of a file alone would lack, whatever it is called. */
  public static Optional<Finding> lacking(Disk disk, Path file) throws IOException {
    for (Format format : ALL) {
      Optional<Finding> lacks = format.lacking(disk, file);
      if (lacks.isPresent()) {
        return lacks;
      }
    }
    return Optional.empty();
  }
}
