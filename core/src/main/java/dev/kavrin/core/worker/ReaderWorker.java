package dev.kavrin.core.worker;

import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.FileComparison;
import dev.kavrin.core.compare.Tolerance;
import dev.kavrin.core.content.gltf.GlbPreview;
import dev.kavrin.core.content.mesh.Shapes;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PacedDisk;
import dev.kavrin.core.disk.PacedDisk.Rate;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.FilesBeside;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Readers;
import dev.kavrin.core.picture.Frame;
import dev.kavrin.core.picture.Pictures;
import dev.kavrin.core.picture.Plane;
import dev.kavrin.core.units.Clockwork;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Optional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Reads foreign files in a process of its own, so that a file made to hurt can hurt only that.
 * Takes one {@link Request} a line on standard input, answers one {@link Answer} a line.
 */
public final class ReaderWorker {
  /** What can be asked. */
  public enum Ask {
    INSPECT,
    COMPARE,
    PREVIEW,
    PICTURE,
    PLANE
  }

  /**
   * @param number given back with the answer, so that no answer is taken for another's
   * @param name proper name; its ending chooses the reader
   * @param otherPath B of a comparison, else null
   * @param mostTriangles budget of a preview
   * @param frame of a picture
   * @param tolerance of a comparison, null for what the files tell apart
   * @param bytesPerSecond how fast to read, zero for full speed
   */
  public record Request(
      long number,
      Ask ask,
      String path,
      String name,
      String otherPath,
      String otherName,
      int mostTriangles,
      Frame frame,
      Double tolerance,
      long bytesPerSecond) {}

  /** One of report, comparison and preview (picture and plane, too) is there, or the error is. */
  public record Answer(
      long number, HealthReport report, Comparison comparison, byte[] preview, String error) {}

  private ReaderWorker() {}

  public static void main(String[] arguments) throws IOException {
    JsonMapper mapper = JsonMapper.shared();
    PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
    System.setOut(System.err);
    BufferedReader in =
        new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
    Disk disk = new RealDisk();
    for (String line = in.readLine(); line != null; line = in.readLine()) {
      out.println(mapper.writeValueAsString(answer(disk, mapper.readValue(line, Request.class))));
    }
  }

  static Answer answer(Disk full, Request request) {
    Rate rate = new Rate(Path.of("/"), request.bytesPerSecond());
    Disk disk =
        request.bytesPerSecond() == 0
            ? full
            : new PacedDisk(full, file -> Optional.of(rate), Clockwork.system());
    Path path = Path.of(request.path());
    long number = request.number();
    try {
      return switch (request.ask()) {
        case INSPECT ->
            new Answer(
                number, new HealthCheck(disk).inspect(path, request.name()), null, null, null);
        case COMPARE ->
            new Answer(
                number,
                null,
                FileComparison.of(
                    disk,
                    path,
                    request.name(),
                    Path.of(request.otherPath()),
                    request.otherName(),
                    request.tolerance() == null ? null : new Tolerance(request.tolerance())),
                null,
                null);
        case PICTURE -> {
          try (SeekableByteChannel in = disk.read(path)) {
            byte[] png =
                Pictures.draw(in, request.name(), new FilesBeside(disk, path), request.frame())
                    .orElse(new byte[0]);
            yield new Answer(number, null, null, png, null);
          }
        }
        case PLANE -> {
          try (SeekableByteChannel in = disk.read(path)) {
            byte[] plane = JsonMapper.shared().writeValueAsBytes(Plane.of(in, request.name()));
            yield new Answer(number, null, null, plane, null);
          }
        }
        case PREVIEW -> {
          try (SeekableByteChannel in = disk.read(path)) {
            Shapes shapes = Readers.shapes(in, request.name(), new FilesBeside(disk, path));
            yield new Answer(
                number, null, null, GlbPreview.of(shapes, request.mostTriangles()), null);
          }
        }
      };
    } catch (IOException | RuntimeException failed) {
      return new Answer(number, null, null, null, failed.toString());
    }
  }
}
