package dev.kavrin.core.health;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.archive.StreamReader;
import dev.kavrin.core.content.archive.ZipReader;
import dev.kavrin.core.content.database.SqliteReader;
import dev.kavrin.core.content.dxf.DxfReader;
import dev.kavrin.core.content.field.VtkReader;
import dev.kavrin.core.content.field.VtkXmlReader;
import dev.kavrin.core.content.gltf.GlbReader;
import dev.kavrin.core.content.hdf5.Hdf5Reader;
import dev.kavrin.core.content.json.JsonReader;
import dev.kavrin.core.content.markup.XmlReader;
import dev.kavrin.core.content.mesh.ObjReader;
import dev.kavrin.core.content.mesh.PlyReader;
import dev.kavrin.core.content.mesh.StlReader;
import dev.kavrin.core.content.picture.PngReader;
import dev.kavrin.core.content.sound.RiffReader;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * Reads a file through the reader of its format, by its ending, else by its first bytes; or as
 * opaque bytes. In this process.
 */
public final class HealthCheck implements Inspector {
  private static final List<ContentReader> READERS =
      List.of(
          new GlbReader(),
          new DxfReader(),
          new JsonReader(),
          new Hdf5Reader(),
          new ObjReader(),
          new StlReader(),
          new PlyReader(),
          new VtkReader(),
          new VtkXmlReader(),
          new ZipReader(),
          StreamReader.gzip(),
          StreamReader.zstandard(),
          new PngReader(),
          new RiffReader(),
          new SqliteReader(),
          new XmlReader());
  private static final int HEAD = 64;

  private final Disk disk;

  public HealthCheck(Disk disk) {
    this.disk = disk;
  }

  @Override
  public HealthReport inspect(Path file, String name) {
    try (SeekableByteChannel in = disk.read(file)) {
      Optional<ContentReader> reader = reader(in, FileName.of(name).lowerExt());
      return reader.isPresent() ? judged(reader.get().read(in)) : opaque(in);
    } catch (IOException | OutOfMemoryError failed) {
      return HealthReport.uncheckable("Could not be read: " + failed.getMessage());
    }
  }

  private static Optional<ContentReader> reader(SeekableByteChannel in, String ext)
      throws IOException {
    for (ContentReader reader : READERS) {
      if (reader.reads(ext)) {
        return Optional.of(reader);
      }
    }
    ByteBuffer head = Bytes.head(in, HEAD);
    return READERS.stream().filter(r -> r.recognises(head)).findFirst();
  }

  private static HealthReport judged(ContentReader.Reading reading) {
    Verdict verdict =
        reading.damaged()
            ? Verdict.DAMAGED
            : reading.doubtful() ? Verdict.DOUBTFUL : Verdict.INTACT;
    return new HealthReport(verdict, List.copyOf(reading.findings()), reading.inventory());
  }

  private static HealthReport opaque(SeekableByteChannel in) throws IOException {
    List<Finding> findings = ZeroRuns.in(in);
    boolean odd = findings.stream().anyMatch(f -> f.severity() == Finding.Severity.DOUBTFUL);
    return new HealthReport(odd ? Verdict.DOUBTFUL : Verdict.NO_FAULT, findings, Inventory.OPAQUE);
  }
}
