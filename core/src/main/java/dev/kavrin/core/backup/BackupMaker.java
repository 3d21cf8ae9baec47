package dev.kavrin.core.backup;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.disk.SinkStream;
import dev.kavrin.core.disk.WholeLines;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.retention.Bin;
import dev.kavrin.core.units.Span;
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
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Copies one file into every backup folder that holds all there is, in one pass over the source: a
 * stable read, checked, journalled, published. A folder that fails falls behind; the others go on.
 */
public final class BackupMaker {
  /** File systems that count in two seconds round up. */
  private static final Duration COARSEST_TIME = Duration.ofSeconds(2);

  /** Room left free for the program's own save. */
  public static final long FLOOR = 32_000_000;

  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final BackupFolders folders;
  private final InstantSource clock;
  private final Bin bin;
  private final SourceLook look;

  public BackupMaker(
      Disk disk,
      Publisher publisher,
      Inspector inspector,
      BackupFolders folders,
      InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.inspector = inspector;
    this.folders = folders;
    this.clock = clock;
    this.bin = new Bin(disk, publisher, clock);
    this.look = new SourceLook(disk);
  }

  /**
   * What came of it.
   *
   * @param folder the first folder that has it
   * @param made false if backups already had exactly these bytes; nothing was written then
   * @param links files it names, as far as it was read for this backup
   */
  public record Result(BackupFolder folder, BackupRecord capture, boolean made, List<Link> links) {
    public Path file() {
      return folder.absolute(capture.path());
    }
  }

  public Inspector inspector() {
    return inspector;
  }

  /**
   * @throws NoSuchFileException the source vanished
   * @throws SourceException it is moving, damaged or no plain file
   * @throws NoRoomException too little room in the only folder there is
   * @throws dev.kavrin.core.journal.FolderAwayException the drive of the only folder there is is
   *     away
   */
  public Result capture(BackupOrder order) throws IOException {
    return folders.alone(order.document(), () -> make(order));
  }

  private Result make(BackupOrder order) throws IOException {
    FileFacts before = look.rested(order.source());
    long start = System.nanoTime();
    Span work = work(order, before);
    long bytes =
        order.how().growing()
            ? WholeLines.end(disk, order.source(), before.size())
            : Long.MAX_VALUE;
    if (bytes == 0) {
      throw new SourceException.StillWritten(order.source());
    }
    ContentId full = order.how().reducer() == null ? null : Copying.identify(disk, order.source());
    StableRead read =
        new StableRead(
            disk, inspector, clock, order, before, bytes, full, leftOut(order), work, start);
    List<StableRead.Target> targets =
        targets(order, before, work).entrySet().stream()
            .map(t -> read.into(t.getKey(), t.getValue()))
            .toList();
    List<Publisher.Outcome> outcomes =
        publisher.publishAll(
            targets.stream().map(StableRead.Target::publishing).toList(),
            sink -> fill(order, bytes, sink));
    return cameOf(read, targets, outcomes);
  }

  /** A file dated in the future holds work of today: its clock was wrong. */
  private Span work(BackupOrder order, FileFacts file) {
    Span told = order.work() == null ? Span.at(file.modified()) : order.work();
    Instant now = clock.instant();
    return told.hi().isAfter(now.plus(COARSEST_TIME)) ? Span.at(now) : told;
  }

  private Result cameOf(
      StableRead read, List<StableRead.Target> targets, List<Publisher.Outcome> outcomes)
      throws IOException {
    Result made = null;
    Result same = null;
    Exception failure = null;
    for (int i = 0; i < targets.size(); i++) {
      StableRead.Target target = targets.get(i);
      Exception failed = outcomes.get(i).failure();
      if (failed instanceof SameContentException already) {
        same = new Result(target.folder(), already.backup(), false, List.of());
      } else if (failed == null) {
        failed = ended(target, outcomes.get(i));
      } else {
        failedLate(target, failed);
      }
      if (failed == null && made == null) {
        made = new Result(target.folder(), target.backup(), true, read.links());
      }
      failure = failed == null || failed instanceof SameContentException ? failure : failed;
    }
    return firstOf(made == null ? same : made, failure);
  }

  /** Null if the end could be written. */
  @Nullable
  private Exception ended(StableRead.Target target, Publisher.Outcome outcome) {
    try {
      folders.measured(target.folder(), outcome.content().length(), outcome.writing());
      target.folder().done(target.operation(), clock.instant());
      return null;
    } catch (IOException | RuntimeException lost) {
      target.folder().leftOpen(target.operation());
      folders.fellBehind(target.folder(), String.valueOf(lost.getMessage()));
      return lost;
    }
  }

  private void failedLate(StableRead.Target target, Exception failed) {
    if (target.operation() != null) {
      new JournalRecovery(disk, publisher, target.folder(), Reach.EVERYWHERE, clock)
          .finishOrTakeBack(target.operation(), failed);
    }
    if (!(failed instanceof SourceException)) {
      folders.fellBehind(target.folder(), String.valueOf(failed.getMessage()));
    }
  }

  private static Result firstOf(@Nullable Result result, @Nullable Exception failure)
      throws IOException {
    if (result != null) {
      return result;
    }
    if (failure instanceof IOException failed) {
      throw failed;
    }
    if (failure instanceof RuntimeException failed) {
      throw failed;
    }
    throw new IllegalStateException("A backup neither came about nor failed");
  }

  private void fill(BackupOrder order, long bytes, Sink sink) throws IOException {
    if (order.how().reducer() == null) {
      Copying.copy(disk, order.source(), bytes, sink);
      return;
    }
    try (SeekableByteChannel in = disk.read(order.source());
        OutputStream out = new BufferedOutputStream(new SinkStream(sink), 1 << 17)) {
      order.how().reducer().write(in, out);
    }
  }

  /** What a light backup will lack; a full one lacks nothing. */
  private List<String> leftOut(BackupOrder order) throws IOException {
    if (order.how().reducer() == null) {
      return List.of();
    }
    try (SeekableByteChannel in = disk.read(order.source())) {
      return order.how().reducer().leavesOut(in);
    }
  }

  /**
   * Asks each folder for room and a name; what fails falls behind.
   *
   * @throws IOException none is left
   */
  private Map<BackupFolder, Path> targets(BackupOrder order, FileFacts before, Span work)
      throws IOException {
    Map<BackupFolder, Long> next = new LinkedHashMap<>();
    IOException failure = null;
    for (BackupFolder folder : folders.current()) {
      try {
        folder.requireHere();
        long sequence =
            folder.nextSequence(order.project(), order.documentPath(), order.document());
        needRoom(folder, order, before.size());
        next.put(folder, sequence);
      } catch (IOException failed) {
        failure = failed;
        folders.fellBehind(folder, failed.getMessage());
      }
    }
    if (next.isEmpty()) {
      throw failure == null ? new IOException("There is no backup folder") : failure;
    }
    long sequence = next.values().stream().max(Long::compare).orElse(1L);
    Map<BackupFolder, Path> targets = new LinkedHashMap<>();
    for (BackupFolder folder : next.keySet()) {
      targets.put(
          folder, folder.nameFor(order.project(), order.documentPath(), sequence, work.hi()));
    }
    return targets;
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
}
