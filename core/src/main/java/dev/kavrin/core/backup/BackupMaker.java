package dev.kavrin.core.backup;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SameBytes;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.disk.SinkStream;
import dev.kavrin.core.disk.WholeLines;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.FolderAwayException;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.retention.Bin;
import dev.kavrin.core.units.Span;
import dev.kavrin.core.version.Manifest;
import jakarta.annotation.Nullable;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.locks.LockSupport;

/**
 * Copies one file into every recovery folder that holds all there is, in one pass over the source:
 * a stable read, checked, journalled, published. A folder that fails falls behind; the others go
 * on.
 */
public final class BackupMaker {
  /** Room left free for the program's own save. */
  public static final long FLOOR = 32_000_000;

  private static final Duration STEP = Duration.ofMillis(25);

  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final BackupFolders recoveries;
  private final InstantSource clock;
  private final Bin bin;

  public BackupMaker(
      Disk disk,
      Publisher publisher,
      Inspector inspector,
      BackupFolders recoveries,
      InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.inspector = inspector;
    this.recoveries = recoveries;
    this.clock = clock;
    this.bin = new Bin(disk, publisher, clock);
  }

  /**
   * What came of it.
   *
   * @param folder the first folder that holds it
   * @param made false if copies already held exactly these bytes; nothing was written then
   * @param links files it names, as far as it was read for this copy
   */
  public record Result(BackupFolder folder, BackupRecord capture, boolean made, List<Link> links) {
    public Path file() {
      return folder.absolute(capture.path());
    }
  }

  public Inspector inspector() {
    return inspector;
  }

  /** Thrown by the gate to give up a stage whose bytes are held already. */
  private static final class Held extends IOException {
    private final transient BackupRecord capture;

    Held(BackupRecord capture) {
      super("held already");
      this.capture = capture;
    }
  }

  /** One folder that is to get the copy. */
  private record Seat(BackupFolder folder, Path target, UUID op) {}

  /**
   * @throws NoSuchFileException the source vanished
   * @throws SourceException it is moving, damaged or no plain file
   * @throws NoRoomException too little room in the only folder there is
   * @throws FolderAwayException the drive of the only folder there is is away
   */
  public Result capture(BackupOrder order) throws IOException {
    FileFacts before = rested(order.source());
    long start = System.nanoTime();
    Span work = order.work() == null ? Span.at(before.modified()) : order.work();
    long bytes =
        order.how().growing()
            ? WholeLines.end(disk, order.source(), before.size())
            : Long.MAX_VALUE;
    if (bytes == 0) {
      throw new SourceException.StillWritten(order.source());
    }
    ContentId full =
        order.how().lightener() == null ? null : Copying.identify(disk, order.source());
    List<Seat> seats = seats(order, before, work);
    Gated gated = new Gated(order, before, bytes, full, leftOut(order));
    List<Publisher.Target> targets =
        seats.stream()
            .map(
                seat ->
                    new Publisher.Target(
                        seat.target(), (stage, id) -> gated.pass(seat.folder(), stage, id)))
            .toList();
    List<Publisher.Outcome> outcomes;
    try {
      outcomes = publisher.publishAll(targets, sink -> fill(order, bytes, sink));
    } catch (IOException | RuntimeException failed) {
      seats.forEach(seat -> abandon(seat, failed));
      throw failed;
    }
    Result made = null;
    Result held = null;
    Exception failure = null;
    for (int i = 0; i < seats.size(); i++) {
      Seat seat = seats.get(i);
      Exception failed = outcomes.get(i).failure();
      if (failed instanceof Held already) {
        abandon(seat, already);
        held = new Result(seat.folder(), already.capture, false, List.of());
        continue;
      }
      try {
        rethrow(failed);
        long millis = Duration.ofNanos(System.nanoTime() - start).toMillis();
        BackupRecord capture = gated.record(seat, outcomes.get(i).content(), work, millis);
        recoveries.measured(seat.folder(), capture.content().length(), outcomes.get(i).writing());
        seat.folder().record(new JournalEntry.Captured(clock.instant(), seat.op(), capture));
        made =
            made == null
                ? new Result(seat.folder(), capture, true, gated.report.inventory().links())
                : made;
      } catch (SourceException unfit) {
        abandon(seat, unfit);
        failure = unfit;
      } catch (IOException | RuntimeException lost) {
        recoveries.fellBehind(seat.folder(), String.valueOf(lost.getMessage()));
        abandon(seat, lost);
        failure = lost;
      }
    }
    return cameOf(made == null ? held : made, failure);
  }

  private void fill(BackupOrder order, long bytes, Sink sink) throws IOException {
    if (order.how().lightener() == null) {
      Copying.copy(disk, order.source(), bytes, sink);
      return;
    }
    try (SeekableByteChannel in = disk.read(order.source());
        OutputStream out = new BufferedOutputStream(new SinkStream(sink), 1 << 17)) {
      order.how().lightener().write(in, out);
    }
  }

  /** What a light copy will lack; a full one lacks nothing. */
  private List<String> leftOut(BackupOrder order) throws IOException {
    if (order.how().lightener() == null) {
      return List.of();
    }
    try (SeekableByteChannel in = disk.read(order.source())) {
      return order.how().lightener().leavesOut(in);
    }
  }

  private static Result cameOf(Result result, Exception failure) throws IOException {
    if (result != null) {
      return result;
    }
    rethrow(failure);
    throw new IllegalStateException("A copy neither came about nor failed");
  }

  private static void rethrow(Exception failure) throws IOException {
    if (failure instanceof IOException failed) {
      throw failed;
    }
    if (failure instanceof RuntimeException failed) {
      throw failed;
    }
  }

  /**
   * Asks each folder for room and writes the intent; what fails falls behind.
   *
   * @throws IOException none is left
   */
  private List<Seat> seats(BackupOrder order, FileFacts before, Span work) throws IOException {
    Map<BackupFolder, Long> next = new LinkedHashMap<>();
    IOException failure = null;
    for (BackupFolder folder : recoveries.current()) {
      try {
        folder.requireHere();
        long sequence =
            folder.nextSequence(order.project(), order.documentPath(), order.document());
        needRoom(folder, order, before.size());
        next.put(folder, sequence);
      } catch (IOException failed) {
        failure = failed;
        recoveries.fellBehind(folder, failed.getMessage());
      }
    }
    long sequence = next.values().stream().max(Long::compare).orElse(0L);
    List<Seat> seats = new ArrayList<>();
    for (BackupFolder folder : next.keySet()) {
      Path target = folder.nameFor(order.project(), order.documentPath(), sequence, work.hi());
      Seat seat = new Seat(folder, target, UUID.randomUUID());
      try {
        folder.record(
            new JournalEntry.Intent(
                clock.instant(),
                seat.op(),
                order.kind() == CopyKind.SECURED
                    ? JournalEntry.Deed.SECURE
                    : JournalEntry.Deed.CAPTURE,
                order.document(),
                order.source().toString(),
                folder.relative(target),
                null));
        seats.add(seat);
      } catch (IOException failed) {
        failure = failed;
        recoveries.fellBehind(folder, failed.getMessage());
      }
    }
    if (seats.isEmpty()) {
      throw failure == null ? new IOException("There is no recovery folder") : failure;
    }
    return seats;
  }

  /**
   * Stops short of a floor: what the program needs to write its own file once more stays free. The
   * bin gives way first.
   */
  private void needRoom(BackupFolder folder, BackupOrder order, long size) throws IOException {
    Path where = folder.folderFor(order.project(), order.documentPath());
    long needed = Math.addExact(size, Math.max(FLOOR, size));
    long free = bin.makeRoom(folder, where, needed);
    if (free < needed) {
      throw new NoRoomException(folder.root(), needed, free);
    }
  }

  private void abandon(Seat seat, Exception failed) {
    try {
      seat.folder()
          .record(new JournalEntry.Abandoned(clock.instant(), seat.op(), failed.getMessage()));
    } catch (IOException second) {
      failed.addSuppressed(second);
    }
  }

  /**
   * Times of last write rise in steps of some milliseconds. A second write within the step of the
   * first would go unseen, so a file written just now is looked at again a little later.
   */
  private FileFacts rested(Path source) throws IOException {
    FileFacts facts = plainFile(source);
    Duration age = Duration.between(facts.modified(), Instant.now());
    if (!age.isNegative() && age.compareTo(STEP) < 0) {
      LockSupport.parkNanos(STEP.toNanos());
      return plainFile(source);
    }
    return facts;
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

  public static long sequence(Path target) {
    return dev.kavrin.core.naming.BackupName.parse(target.getFileName().toString())
        .orElseThrow()
        .sequence();
  }

  /** The last look before a stage gets its name. */
  private final class Gated {
    private final BackupOrder order;
    private final FileFacts before;
    private final long bytes;
    private final ContentId full;
    private final List<String> leftOut;
    private boolean settled = true;
    private HealthReport report;

    Gated(
        BackupOrder order,
        FileFacts before,
        long bytes,
        @Nullable ContentId full,
        List<String> leftOut) {
      this.order = order;
      this.before = before;
      this.bytes = bytes;
      this.full = full;
      this.leftOut = leftOut;
    }

    /** What the source held, of which a light copy holds less. */
    private ContentId source(ContentId written) {
      return full == null ? written : full;
    }

    void pass(BackupFolder folder, Path stage, ContentId content) throws IOException {
      settled =
          settled && (order.how().growing() ? onlyGrew(content) : stoodStill(source(content)));
      if (!settled && !order.how().evenMoving()) {
        throw new SourceException.StillWritten(order.source());
      }
      Optional<BackupRecord> held =
          order.how().again() ? Optional.empty() : held(folder, stage, content);
      if (held.isPresent()) {
        throw new Held(held.get());
      }
      if (report == null) {
        report = inspector.inspect(stage, Path.of(order.documentPath()).getFileName().toString());
      }
      if (report.verdict() == Verdict.DAMAGED && !order.how().anyHealth()) {
        throw new SourceException.Damaged(order.source(), report);
      }
      disk.touch(stage, before.modifiedNanos());
    }

    /** What was copied still stands at the beginning of the same file. */
    private boolean onlyGrew(ContentId content) throws IOException {
      FileFacts now = disk.facts(order.source()).orElse(null);
      return now != null
          && now.key().equals(before.key())
          && now.size() >= bytes
          && content.length() == bytes
          && Copying.identify(disk, order.source(), bytes).equals(content);
    }

    /** Who may write without the file's times telling is found out by reading twice. */
    private boolean stoodStill(ContentId content) throws IOException {
      return content.length() == before.size()
          && (!disk.mayBeWritten(order.source())
              || Copying.identify(disk, order.source()).equals(content))
          && disk.facts(order.source()).filter(before::sameAs).isPresent();
    }

    private Optional<BackupRecord> held(BackupFolder folder, Path stage, ContentId content)
        throws IOException {
      if (full != null) {
        String state = Manifest.ofFile(full).digest();
        return folder.history().captures(order.document()).stream()
            .filter(c -> c.state().equals(state) && c.settled())
            .findFirst();
      }
      for (BackupRecord capture : folder.history().captures(order.document())) {
        Path file = folder.absolute(capture.path());
        if (capture.content().equals(content)
            && !capture.isLight()
            && capture.settled()
            && disk.facts(file).isPresent()
            && SameBytes.in(disk, stage, file)) {
          return Optional.of(capture);
        }
      }
      return Optional.empty();
    }

    BackupRecord record(Seat seat, ContentId content, Span work, long millis) {
      return new BackupRecord(
          order.document(),
          order.kind(),
          seat.folder().relative(seat.target()),
          state(source(content), sequence(seat.target())),
          content,
          order.origin().toString(),
          order.sourceKind(),
          work.lo(),
          work.hi(),
          sequence(seat.target()),
          order.cause(),
          order.note(),
          settled,
          report.verdict(),
          report.reason(),
          millis,
          order.role(),
          leftOut);
    }

    /** A copy made once more is a state of its own, told apart by its birth number. */
    private String state(ContentId content, long sequence) {
      return order.how().again()
          ? new Manifest(List.of(new Manifest.Entry("again", "#" + sequence, content))).digest()
          : Manifest.ofFile(content).digest();
    }
  }
}
