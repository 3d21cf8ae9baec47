package dev.kavrin.core.store;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SameBytes;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.trail.CopyKind;
import dev.kavrin.core.trail.Manifest;
import dev.kavrin.core.units.Span;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Optional;
import java.util.UUID;

/**
 * Makes one copy of one file in a recovery folder: a stable read, checked, journalled, published.
 */
public final class Capturer {
  /** Room left free for the program's own save. */
  static final long FLOOR = 32_000_000;

  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final RecoveryFolder recovery;
  private final InstantSource clock;

  public Capturer(
      Disk disk,
      Publisher publisher,
      Inspector inspector,
      RecoveryFolder recovery,
      InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.inspector = inspector;
    this.recovery = recovery;
    this.clock = clock;
  }

  /**
   * What to copy.
   *
   * @param documentPath relative to the project folder
   * @param source where to read the bytes
   * @param origin where they were found; the same unless they are held under a second name
   * @param work when the work was done; null takes the file's last write
   * @param anyHealth true to copy a damaged file too
   * @param evenMoving true to copy a file that is being written; the copy is then unsettled
   */
  public record Order(
      ProjectRecord project,
      UUID document,
      String documentPath,
      Path source,
      Path origin,
      CopyKind sourceKind,
      CopyKind kind,
      Span work,
      String cause,
      String note,
      boolean anyHealth,
      boolean evenMoving) {}

  /**
   * @param made false if a copy already held exactly these bytes; nothing was written then
   */
  public record Result(CaptureRecord capture, boolean made) {}

  /** Thrown by the gate to give up a stage whose bytes are held already. */
  private static final class Held extends IOException {
    private final transient CaptureRecord capture;

    Held(CaptureRecord capture) {
      this.capture = capture;
    }
  }

  /**
   * @throws NoSuchFileException the source vanished
   * @throws SourceException it is moving, damaged or no plain file
   * @throws NoRoomException too little room
   * @throws PlaceAwayException the recovery folder's drive is away
   */
  public Result capture(Order order) throws IOException {
    recovery.requireHere();
    FileFacts before = plainFile(order.source());
    Instant started = clock.instant();
    long start = System.nanoTime();
    Span work = order.work() == null ? Span.at(before.modified()) : order.work();
    Path target =
        recovery.nextName(order.project(), order.documentPath(), order.document(), work.hi());
    long free = disk.room(target.getParent());
    if (free < before.size() + FLOOR) {
      throw new NoRoomException(recovery.root(), before.size() + FLOOR, free);
    }
    UUID op = UUID.randomUUID();
    JournalEntry.Deed deed =
        order.kind() == CopyKind.SECURED ? JournalEntry.Deed.SECURE : JournalEntry.Deed.CAPTURE;
    recovery.record(
        new JournalEntry.Intent(
            started,
            op,
            deed,
            order.document(),
            order.source().toString(),
            recovery.relative(target),
            null));
    Gated gated = new Gated(order, before);
    try {
      ContentId content =
          publisher.publish(target, sink -> Copying.copy(disk, order.source(), sink), gated);
      CaptureRecord capture =
          new CaptureRecord(
              order.document(),
              order.kind(),
              recovery.relative(target),
              Manifest.ofFile(content).digest(),
              content,
              order.origin().toString(),
              order.sourceKind(),
              work.lo(),
              work.hi(),
              sequence(target),
              order.cause(),
              order.note(),
              gated.settled,
              gated.report.verdict(),
              gated.report.reason(),
              Duration.ofNanos(System.nanoTime() - start).toMillis());
      recovery.record(new JournalEntry.Captured(clock.instant(), op, capture));
      return new Result(capture, true);
    } catch (Held held) {
      recovery.record(new JournalEntry.Abandoned(clock.instant(), op, "held already"));
      return new Result(held.capture, false);
    } catch (IOException | RuntimeException failed) {
      abandon(op, failed);
      throw failed;
    }
  }

  private void abandon(UUID op, Exception failed) {
    try {
      recovery.record(new JournalEntry.Abandoned(clock.instant(), op, failed.getMessage()));
    } catch (IOException second) {
      failed.addSuppressed(second);
    }
  }

  private FileFacts plainFile(Path source) throws IOException {
    FileFacts facts =
        disk.facts(source).orElseThrow(() -> new NoSuchFileException(source.toString()));
    if (!facts.isFile()) {
      String what =
          switch (facts.kind()) {
            case LINK -> "a link to somewhere else";
            case FOLDER -> "a folder";
            default -> "a device or pipe";
          };
      throw new SourceException.NotAFile(source, what);
    }
    return facts;
  }

  static long sequence(Path target) {
    return dev.kavrin.core.naming.CaptureName.parse(target.getFileName().toString())
        .orElseThrow()
        .sequence();
  }

  /** The last look before a stage gets its name. */
  private final class Gated implements Publisher.Gate {
    private final Order order;
    private final FileFacts before;
    private boolean settled = true;
    private HealthReport report;

    Gated(Order order, FileFacts before) {
      this.order = order;
      this.before = before;
    }

    @Override
    public void pass(Path stage, ContentId content) throws IOException {
      Optional<FileFacts> after = disk.facts(order.source());
      settled = after.filter(before::sameAs).isPresent() && content.length() == before.size();
      if (!settled && !order.evenMoving()) {
        throw new SourceException.StillWritten(order.source());
      }
      Optional<CaptureRecord> held = held(stage, content);
      if (held.isPresent()) {
        throw new Held(held.get());
      }
      report = inspector.inspect(stage, Path.of(order.documentPath()).getFileName().toString());
      if (report.verdict() == Verdict.DAMAGED && !order.anyHealth()) {
        throw new SourceException.Damaged(order.source(), report);
      }
      disk.touch(stage, before.modifiedNanos());
    }

    private Optional<CaptureRecord> held(Path stage, ContentId content) throws IOException {
      for (CaptureRecord capture : recovery.history().captures(order.document())) {
        Path file = recovery.absolute(capture.path());
        if (capture.content().equals(content)
            && capture.settled()
            && disk.facts(file).isPresent()
            && SameBytes.in(disk, stage, file)) {
          return Optional.of(capture);
        }
      }
      return Optional.empty();
    }
  }
}
