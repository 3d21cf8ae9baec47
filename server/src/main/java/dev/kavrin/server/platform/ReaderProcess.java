package dev.kavrin.server.platform;

import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.picture.Frame;
import dev.kavrin.core.picture.Sight;
import dev.kavrin.core.relink.Relink;
import dev.kavrin.core.restore.PartRestore.Written;
import dev.kavrin.core.worker.ReaderWorker.Answer;
import dev.kavrin.core.worker.ReaderWorker.Ask;
import dev.kavrin.core.worker.ReaderWorker.Pick;
import dev.kavrin.core.worker.ReaderWorker.Request;
import dev.kavrin.core.worker.ReaderWorker.Spot;
import dev.kavrin.core.worker.ReaderWorker.Taking;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.DoubleConsumer;
import java.util.function.Function;
import java.util.function.ToLongFunction;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * The reader's process, started when needed, killed when it takes more of the processor's time than
 * 2 s + size / 100 MB/s (20 s more to draw) or gets nowhere, and started anew. Calls are
 * serialised.
 */
public final class ReaderProcess implements Inspector, AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(ReaderProcess.class);
  private static final long BYTES_PER_SECOND = 100_000_000;
  private static final Set<Ask> READING = EnumSet.of(Ask.INSPECT, Ask.COMPARE);

  /** On top of reading, for all that is drawn: a reduced model takes longer than its numbers. */
  private static final Duration DRAWING = Duration.ofSeconds(20);

  private static final Duration START = Duration.ofSeconds(20);

  private final JsonMapper mapper = JsonMapper.shared();
  private final AtomicLong asked = new AtomicLong();
  private final ReaderPipe pipe;
  private final ToLongFunction<Path> rates;
  private final Function<Path, Map<String, String>> once;
  @Nullable private volatile String trouble;

  /**
   * @param rates bytes a second a file may be read with, zero for full speed
   * @param once what lay beside a file that is a copy from elsewhere
   */
  public ReaderProcess(ToLongFunction<Path> rates, Function<Path, Map<String, String>> once) {
    this(rates, once, ReaderPipe.ownReader());
  }

  /** The same with another program to read. */
  ReaderProcess(
      ToLongFunction<Path> rates, Function<Path, Map<String, String>> once, List<String> command) {
    this.pipe = new ReaderPipe(command);
    this.rates = rates;
    this.once = once;
  }

  @Override
  public HealthReport inspect(Path file, String name) {
    Answer answer =
        ask(
            new Request(
                asked.incrementAndGet(),
                Ask.INSPECT,
                file.toString(),
                name,
                once.apply(file),
                null,
                null,
                null,
                0,
                null,
                null,
                null,
                null,
                rate(file)),
            share -> {},
            file);
    return answer.report() == null ? HealthReport.notYet(answer.error()) : answer.report();
  }

  /**
   * Compares two files.
   *
   * @param tolerance in their unit of length, null for what they can tell apart themselves
   * @param onTheWay told the share that is done, 0 to 1
   * @throws ProblemException with the reason, if the reader gave up
   */
  public Comparison compare(
      Path a,
      String nameA,
      Path b,
      String nameB,
      @Nullable Double tolerance,
      DoubleConsumer onTheWay) {
    Answer answer =
        ask(
            new Request(
                asked.incrementAndGet(),
                Ask.COMPARE,
                a.toString(),
                nameA,
                once.apply(a),
                b.toString(),
                nameB,
                once.apply(b),
                0,
                null,
                null,
                null,
                tolerance,
                Math.max(rate(a), rate(b))),
            onTheWay,
            a,
            b);
    if (answer.comparison() == null) {
      throw ProblemException.badInput(
          "could-not-compare", "Could not be compared: " + answer.error());
    }
    return answer.comparison();
  }

  /** A reduced model of a file with shapes, as GLB. */
  public byte[] preview(Path file, String name, int mostTriangles) {
    return drawn(Ask.PREVIEW, file, name, mostTriangles, null, null);
  }

  /** A picture of what a file shows, as PNG; no bytes if there is nothing to see. */
  public byte[] picture(Path file, String name, Frame frame) {
    return drawn(Ask.PICTURE, file, name, 0, frame, null);
  }

  /** A {@link dev.kavrin.core.picture.Plane} as JSON. */
  public byte[] plane(Path file, String name) {
    return drawn(Ask.PLANE, file, name, 0, null, null);
  }

  /** The line of sight through a spot of a file's picture, null if it shows nothing in space. */
  @Nullable
  public Sight sight(Path file, String name, double x, double y) {
    Spot spot = new Spot(x, y, null);
    return mapper.readValue(drawn(Ask.SIGHT, file, name, 0, Frame.SMALL, spot), Sight.class);
  }

  /** Ids of the parts of a file that a line of sight meets. */
  public List<String> met(Path file, String name, Sight sight) {
    Spot spot = new Spot(0, 0, sight);
    return List.of(mapper.readValue(drawn(Ask.MET, file, name, 0, null, spot), String[].class));
  }

  /**
   * Writes a version of a file with parts of others in it.
   *
   * @param taking links beside its sources are found here
   * @throws ProblemException with the reason, if it cannot be; nothing stands at the target then
   */
  public Written take(Path base, String name, Taking taking) {
    List<Pick> picks =
        taking.picks().stream()
            .map(p -> new Pick(p.path(), p.name(), once.apply(Path.of(p.path())), p.parts()))
            .toList();
    List<Path> files =
        new ArrayList<>(taking.picks().stream().map(p -> Path.of(p.path())).toList());
    files.add(base);
    Taking found = new Taking(picks, Map.of(), null, taking.target());
    byte[] written = written(Ask.TAKE, base, name, found, files.toArray(Path[]::new));
    return mapper.readValue(written, Written.class);
  }

  /**
   * Writes a version of a file that names other files.
   *
   * @param names what to write by what stands there
   * @throws ProblemException with the reason, if it cannot be; nothing stands at the target then
   */
  public Relink.Written relink(Path base, String name, Map<String, String> names, Path target) {
    Taking taking = new Taking(List.of(), names, null, target.toString());
    return mapper.readValue(written(Ask.RELINK, base, name, taking, base), Relink.Written.class);
  }

  /**
   * Writes what a file shows in another format; the bytes written.
   *
   * @param ending of the format
   * @param target a new file
   * @throws ProblemException with the reason, if it cannot be; nothing stands at the target then
   */
  public long export(Path from, String name, String ending, Path target) {
    Taking taking = new Taking(List.of(), Map.of(), ending, target.toString());
    return mapper.readValue(written(Ask.EXPORT, from, name, taking, from), Long.class);
  }

  private byte[] written(Ask what, Path base, String name, Taking taking, Path... files) {
    Answer answer =
        ask(
            new Request(
                asked.incrementAndGet(),
                what,
                base.toString(),
                name,
                once.apply(base),
                null,
                null,
                null,
                0,
                null,
                null,
                taking,
                null,
                rate(base)),
            share -> {},
            files);
    if (answer.preview() == null) {
      throw ProblemException.badInput("cannot-take", answer.error() + " Nothing was touched.");
    }
    return answer.preview();
  }

  private byte[] drawn(
      Ask what,
      Path file,
      String name,
      int mostTriangles,
      @Nullable Frame frame,
      @Nullable Spot spot) {
    Answer answer =
        ask(
            new Request(
                asked.incrementAndGet(),
                what,
                file.toString(),
                name,
                once.apply(file),
                null,
                null,
                null,
                mostTriangles,
                frame,
                spot,
                null,
                null,
                rate(file)),
            share -> {},
            file);
    if (answer.preview() == null) {
      throw ProblemException.badInput("no-preview", "Could not be drawn: " + answer.error());
    }
    return answer.preview();
  }

  private long rate(Path file) {
    return rates.applyAsLong(file);
  }

  private synchronized Answer ask(Request request, DoubleConsumer onTheWay, Path... files) {
    try {
      boolean fresh = pipe.open();
      pipe.send(mapper.writeValueAsString(request));
      Duration limit = limit(request, files).plus(fresh ? START : Duration.ZERO);
      ReaderPipe.Budget budget = pipe.budget(limit);
      Answer answer = next(budget);
      for (; answer.share() != null; answer = next(budget)) {
        onTheWay.accept(answer.share());
      }
      if (answer.number() != request.number()) {
        throw new IOException("the reader answered out of turn");
      }
      trouble = null;
      return answer;
    } catch (TimeoutException slow) {
      pipe.stop();
      return failed("reading took too long", request);
    } catch (IOException | ExecutionException | JacksonException broken) {
      pipe.stop();
      return failed(String.valueOf(broken.getMessage()), request);
    } catch (RuntimeException givenUp) {
      pipe.stop();
      throw givenUp;
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
      pipe.stop();
      return failed("interrupted", request);
    }
  }

  private Answer next(ReaderPipe.Budget budget)
      throws IOException, InterruptedException, ExecutionException, TimeoutException {
    return mapper.readValue(pipe.next(budget), Answer.class);
  }

  /** Why it gave up the last time it was asked, in words; null if it did not. */
  @Nullable
  public String trouble() {
    return trouble;
  }

  private Answer failed(String why, Request request) {
    trouble = why;
    LOG.warn("Reader gave up on {}: {}", request.path(), why);
    return Answer.failed(request.number(), why);
  }

  private Duration limit(Request request, Path... files)
      throws InterruptedException, ExecutionException, TimeoutException {
    long rate = request.bytesPerSecond();
    long perSecond = rate == 0 ? BYTES_PER_SECOND : Math.min(BYTES_PER_SECOND, rate / 2);
    long bytes = pipe.aside(() -> size(files));
    Duration reading = Duration.ofSeconds(2).plusMillis(bytes * 1000 / perSecond);
    return READING.contains(request.ask()) ? reading : reading.plus(DRAWING);
  }

  /** Empty if its folder does not tell in time. */
  OptionalLong size(Path file) {
    try {
      return OptionalLong.of(pipe.aside(() -> size(new Path[] {file})));
    } catch (ExecutionException | TimeoutException unknown) {
      return OptionalLong.empty();
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      return OptionalLong.empty();
    }
  }

  private static long size(Path[] files) throws IOException {
    long bytes = 0;
    for (Path file : files) {
      bytes += Files.exists(file) ? Files.size(file) : 0;
    }
    return bytes;
  }

  @Override
  public void close() {
    pipe.close();
  }
}
