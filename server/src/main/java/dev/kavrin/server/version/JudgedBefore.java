package dev.kavrin.server.version;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderService;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Function;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Component;

/**
 * Reads again what an older edition of the checks judged, one content at a time. Where it is judged
 * otherwise now, the journals are told too, so that the keep rules trust no backup that they should
 * not, nor drop one that they should trust.
 */
@Component
class JudgedBefore {
  private static final Logger LOG = LoggerFactory.getLogger(JudgedBefore.class);
  private static final Duration LOOKED_EVERY = Duration.ofSeconds(20);

  private final VersionRows.Contents contents;
  private final VersionRows.Copies copies;
  private final VersionRecorder recorder;
  private final ReadContents read;
  private final FolderService folders;
  private final Engine engine;
  private final InstantSource clock;
  private Instant next = Instant.MIN;

  JudgedBefore(
      VersionRows.Contents contents,
      VersionRows.Copies copies,
      VersionRecorder recorder,
      ReadContents read,
      FolderService folders,
      Engine engine,
      InstantSource clock) {
    this.contents = contents;
    this.copies = copies;
    this.recorder = recorder;
    this.read = read;
    this.folders = folders;
    this.engine = engine;
    this.clock = clock;
  }

  /** Has one read, if there is one. */
  void one(Function<ContentRow, HealthReport> reading) {
    Instant now = clock.instant();
    if (now.isBefore(next)) {
      return;
    }
    List<ContentRow> older = contents.judgedBefore(HealthCheck.EDITION, now, Limit.of(1));
    if (older.isEmpty()) {
      next = now.plus(LOOKED_EVERY);
      return;
    }
    ContentRow row = older.get(0);
    HealthReport report = reading.apply(row);
    if (report.verdict() == Verdict.NOT_CHECKED) {
      recorder.later(row, now);
      return;
    }
    for (CopyRow copy : copies.findByContentIdInAndGoneIsNull(List.of(row.id))) {
      tell(copy, report);
    }
    // Last: a stop before it has the content read once more.
    recorder.read(row, report);
    read.forget(row.id);
  }

  private void tell(CopyRow copy, HealthReport report) {
    Optional<UUID> folder = folders.byKey(copy.placeId).map(Folder::uuid);
    for (Kept kept : engine.projects()) {
      for (BackupFolder at : kept.folders().all()) {
        if (folder.filter(at.uuid()::equals).isPresent()) {
          tell(at, copy.relPath, report);
        }
      }
    }
  }

  /**
   * Only where the bytes stand as they were written: of one that rotted another copy says nothing.
   */
  private void tell(BackupFolder folder, String path, HealthReport report) {
    Optional<BackupRecord> otherwise =
        folder.history().allCaptures().stream()
            .filter(b -> b.path().equals(path) && b.verdict() != report.verdict())
            .findFirst();
    if (otherwise.isEmpty()) {
      return;
    }
    try {
      ContentId stands = Copying.identify(engine.disk(), folder.absolute(path));
      if (!stands.equals(otherwise.get().content())) {
        return;
      }
      folder.record(
          new JournalEntry.Judged(clock.instant(), path, report.verdict(), report.reason()));
      LOG.info("{} is judged otherwise by newer checks: {}", path, report.verdict());
    } catch (IOException away) {
      LOG.warn(
          "{} is judged otherwise by newer checks, which its journal could not be told: {}",
          path,
          away.getMessage());
    }
  }
}
