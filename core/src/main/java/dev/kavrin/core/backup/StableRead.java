package dev.kavrin.core.backup;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.content.Formats;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SameBytes;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.naming.BackupName;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Span;
import dev.kavrin.core.version.Manifest;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;

/**
 * One pass over a source into several folders. Before a stage gets its name the source is looked at
 * again, the stage is checked, and the whole record is journalled.
 */
final class StableRead {
  private final Disk disk;
  private final Inspector inspector;
  private final InstantSource clock;
  private final BackupOrder order;
  private final FileFacts before;
  private final long bytes;
  private final ContentId full;
  private final List<String> leftOut;
  private final Span work;
  private final long start;
  private boolean settled = true;
  private HealthReport report;

  /**
   * @param before how the source stood before it was read
   * @param bytes how many of its first are copied
   * @param full what the source has of which a light backup has less, null for a full one
   * @param start of the work, by the steady clock of this process
   */
  StableRead(
      Disk disk,
      Inspector inspector,
      InstantSource clock,
      BackupOrder order,
      FileFacts before,
      long bytes,
      @Nullable ContentId full,
      List<String> leftOut,
      Span work,
      long start) {
    this.disk = disk;
    this.inspector = inspector;
    this.clock = clock;
    this.order = order;
    this.before = before;
    this.bytes = bytes;
    this.full = full;
    this.leftOut = leftOut;
    this.work = work;
    this.start = start;
  }

  Target into(BackupFolder folder, Path path) {
    return new Target(folder, path);
  }

  List<Link> links() {
    return report.inventory().links();
  }

  /** One folder that is to get the backup. */
  final class Target {
    private final BackupFolder folder;
    private final Path path;
    private Operation operation;

    private Target(BackupFolder folder, Path path) {
      this.folder = folder;
      this.path = path;
    }

    BackupFolder folder() {
      return folder;
    }

    Publisher.Target publishing() {
      return new Publisher.Target(path, this::check);
    }

    /** Null while nothing was journalled. */
    @Nullable
    Operation operation() {
      return operation;
    }

    BackupRecord backup() {
      return ((Operation.Backup) operation.planned()).backup();
    }

    private void check(Path stage, ContentId content) throws IOException {
      pass(folder, stage, content);
      Operation planned = Operation.of(new Operation.Backup(record(folder, path, content)));
      folder.begin(planned, clock.instant());
      operation = planned;
    }
  }

  private void pass(BackupFolder folder, Path stage, ContentId content) throws IOException {
    settled = settled && (order.how().growing() ? onlyGrew(content) : stoodStill(source(content)));
    if (!settled && !order.how().evenMoving()) {
      throw new SourceException.StillWritten(order.source());
    }
    Optional<BackupRecord> same =
        order.how().again() ? Optional.empty() : same(folder, stage, content);
    if (same.isPresent()) {
      throw new SameContentException(same.get());
    }
    if (report == null) {
      report = inspected(stage);
    }
    if (report.verdict() == Verdict.DAMAGED && !order.how().anyHealth()) {
      throw new SourceException.Damaged(order.source(), report);
    }
    disk.touch(stage, before.modifiedNanos());
  }

  private HealthReport inspected(Path stage) throws IOException {
    String name = Path.of(order.documentPath()).getFileName().toString();
    HealthReport read = inspector.inspect(stage, name);
    return Formats.lacking(disk, order.source()).map(read::doubting).orElse(read);
  }

  /** What the source had, of which a light backup has less. */
  private ContentId source(ContentId written) {
    return full == null ? written : full;
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

  private Optional<BackupRecord> same(BackupFolder folder, Path stage, ContentId content)
      throws IOException {
    if (full != null) {
      String state = Manifest.ofFile(full).digest();
      return folder.history().captures(order.document()).stream()
          .filter(c -> c.state().equals(state) && c.settled())
          .findFirst();
    }
    for (BackupRecord backup : folder.history().captures(order.document())) {
      Path file = folder.absolute(backup.path());
      if (backup.content().equals(content)
          && !backup.isLight()
          && backup.settled()
          && standsFor(backup)
          && !folder.history().isFaulty(backup.path())
          && disk.facts(file).isPresent()
          && SameBytes.in(disk, stage, file)) {
        return Optional.of(backup);
      }
    }
    return Optional.empty();
  }

  /** What was kept as a program wrote it goes sooner than what was saved, or left by a crash. */
  private boolean standsFor(BackupRecord backup) {
    return backup.kind() != CopyKind.AS_WRITTEN || order.kind() == CopyKind.AS_WRITTEN;
  }

  private BackupRecord record(BackupFolder folder, Path path, ContentId content) {
    long sequence = BackupName.parse(path.getFileName().toString()).orElseThrow().sequence();
    return new BackupRecord(
        order.document(),
        order.kind(),
        folder.relative(path),
        state(source(content), sequence),
        content,
        order.origin().toString(),
        order.sourceKind(),
        work.lo(),
        work.hi(),
        sequence,
        order.cause(),
        order.note(),
        settled,
        report.verdict(),
        report.reason(),
        Duration.ofNanos(System.nanoTime() - start).toMillis(),
        order.role(),
        leftOut);
  }

  /** A backup made once more is a version of its own, told apart by its birth number. */
  private String state(ContentId content, long sequence) {
    return order.how().again()
        ? new Manifest(List.of(new Manifest.Entry("again", "#" + sequence, content))).digest()
        : Manifest.ofFile(content).digest();
  }
}
