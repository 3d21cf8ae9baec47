package dev.kavrin.core.worker;

import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.FileComparison;
import dev.kavrin.core.compare.FileComparison.Source;
import dev.kavrin.core.compare.Tolerance;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.gltf.GlbPreview;
import dev.kavrin.core.content.mesh.Shapes;
import dev.kavrin.core.disk.CountedDisk;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PacedDisk;
import dev.kavrin.core.disk.PacedDisk.Rate;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Readers;
import dev.kavrin.core.health.SiblingFilesOnDisk;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.picture.Frame;
import dev.kavrin.core.picture.Pictures;
import dev.kavrin.core.picture.Plane;
import dev.kavrin.core.picture.Sight;
import dev.kavrin.core.units.Clockwork;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
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
    PLANE,
    SIGHT,
    MET,
    TAKE,
    RELINK,
    EXPORT
  }

  /**
   * @param number given back with the answer, so that no answer is taken for another's
   * @param name proper name; its ending chooses the reader
   * @param once what lay beside it, as {@link SiblingFilesOnDisk} takes it
   * @param otherPath B of a comparison, else null
   * @param mostTriangles budget of a preview
   * @param frame of a picture
   * @param taking null for other questions
   * @param spot in a picture, or the sight itself; null for other questions
   * @param tolerance of a comparison, null for what the files tell apart
   * @param bytesPerSecond how fast to read, zero for full speed
   */
  public record Request(
      long number,
      Ask ask,
      String path,
      String name,
      Map<String, String> once,
      String otherPath,
      String otherName,
      Map<String, String> otherOnce,
      int mostTriangles,
      Frame frame,
      Spot spot,
      Taking taking,
      Double tolerance,
      long bytesPerSecond) {}

  /**
   * What to write into a new version of the file.
   *
   * @param picks parts of other files
   * @param names other names for the files it leans on
   * @param ending of another format, null for the same
   * @param target a new file
   */
  public record Taking(List<Pick> picks, Map<String, String> names, String ending, String target) {}

  /** Parts of one file. */
  public record Pick(String path, String name, Map<String, String> once, List<String> parts) {}

  /**
   * Where one looks.
   *
   * @param x of a picture's width, from the left
   * @param y of a picture's height, from the top
   * @param sight what that came to, null if that is what is asked
   */
  public record Spot(double x, double y, Sight sight) {}

  /**
   * One of report, comparison and preview (all that is drawn or seen, too) is there, or the error
   * is. Before that there may be some that only tell how far it is.
   *
   * @param share 0 to 1, null in the answer itself
   */
  public record Answer(
      long number,
      HealthReport report,
      Comparison comparison,
      byte[] preview,
      String error,
      Double share) {
    static Answer of(long number, HealthReport report) {
      return new Answer(number, report, null, null, null, null);
    }

    static Answer of(long number, Comparison comparison) {
      return new Answer(number, null, comparison, null, null, null);
    }

    static Answer of(long number, byte[] preview) {
      return new Answer(number, null, null, preview, null, null);
    }

    static Answer onTheWay(long number, double share) {
      return new Answer(number, null, null, null, null, share);
    }

    /** Why there is none. */
    public static Answer failed(long number, String why) {
      return new Answer(number, null, null, null, why, null);
    }
  }

  private static final Duration TELL_EVERY = Duration.ofMillis(300);

  private ReaderWorker() {}

  public static void main(String[] arguments) throws IOException {
    JsonMapper mapper = JsonMapper.shared();
    PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
    System.setOut(System.err);
    BufferedReader in =
        new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
    Disk disk = new CompactedDisk(new RealDisk());
    for (String line = in.readLine(); line != null; line = in.readLine()) {
      Answer answer =
          answer(
              disk,
              mapper.readValue(line, Request.class),
              onTheWay -> out.println(mapper.writeValueAsString(onTheWay)));
      out.println(mapper.writeValueAsString(answer));
    }
  }

  static Answer answer(Disk full, Request request, Consumer<Answer> onTheWay) {
    Rate rate = new Rate(Path.of("/"), request.bytesPerSecond());
    Disk disk =
        request.bytesPerSecond() == 0
            ? full
            : new PacedDisk(full, file -> Optional.of(rate), () -> {}, Clockwork.system());
    Path path = Path.of(request.path());
    long number = request.number();
    try {
      return switch (request.ask()) {
        case INSPECT ->
            Answer.of(number, new HealthCheck(disk, request.once()).inspect(path, request.name()));
        case COMPARE -> Answer.of(number, compared(disk, request, onTheWay));
        case PICTURE -> {
          try (SeekableByteChannel in = disk.read(path)) {
            byte[] png =
                Pictures.draw(
                        in,
                        request.name(),
                        new SiblingFilesOnDisk(disk, path, request.once()),
                        request.frame())
                    .orElse(new byte[0]);
            yield Answer.of(number, png);
          }
        }
        case SIGHT -> {
          try (SeekableByteChannel in = disk.read(path)) {
            Sight sight =
                Sight.through(
                        in,
                        request.name(),
                        new SiblingFilesOnDisk(disk, path, request.once()),
                        request.frame(),
                        request.spot().x(),
                        request.spot().y())
                    .orElse(null);
            yield json(number, sight);
          }
        }
        case MET -> {
          try (SeekableByteChannel in = disk.read(path)) {
            Sight sight = request.spot().sight();
            yield json(
                number,
                sight.met(in, request.name(), new SiblingFilesOnDisk(disk, path, request.once())));
          }
        }
        case TAKE -> json(number, WorkerWriting.taken(disk, request));
        case RELINK -> json(number, WorkerWriting.relinked(disk, request));
        case EXPORT -> json(number, WorkerWriting.exported(disk, request));
        case PLANE -> {
          try (SeekableByteChannel in = disk.read(path)) {
            yield json(number, Plane.of(in, request.name()));
          }
        }
        case PREVIEW -> {
          try (SeekableByteChannel in = disk.read(path)) {
            Shapes shapes =
                Readers.shapes(
                    in, request.name(), new SiblingFilesOnDisk(disk, path, request.once()));
            yield new Answer(
                number, null, null, GlbPreview.of(shapes, request.mostTriangles()), null, null);
          }
        }
      };
    } catch (CannotTake told) {
      return Answer.failed(number, told.getMessage());
    } catch (IOException | RuntimeException failed) {
      return Answer.failed(number, failed.toString());
    }
  }

  private static Comparison compared(Disk disk, Request request, Consumer<Answer> onTheWay)
      throws IOException {
    Source a = new Source(Path.of(request.path()), request.name(), request.once());
    Source b = new Source(Path.of(request.otherPath()), request.otherName(), request.otherOnce());
    long all = FileComparison.toRead(disk, a, b);
    AtomicLong told = new AtomicLong(System.nanoTime());
    Disk counted =
        new CountedDisk(
            disk,
            bytes -> {
              long last = told.get();
              long now = System.nanoTime();
              if (now - last > TELL_EVERY.toNanos() && told.compareAndSet(last, now)) {
                double share = Math.min(0.99, (double) bytes / Math.max(1, all));
                onTheWay.accept(Answer.onTheWay(request.number(), share));
              }
            });
    return FileComparison.of(
        counted, a, b, request.tolerance() == null ? null : new Tolerance(request.tolerance()));
  }

  private static Answer json(long number, Object found) {
    return Answer.of(number, JsonMapper.shared().writeValueAsBytes(found));
  }
}
