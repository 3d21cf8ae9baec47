package dev.kavrin.server.version;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Unchanged;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.platform.ReaderProcess;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.dao.DataAccessException;
import org.springframework.data.domain.Limit;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/** Reads, behind everything else, what is inside copies nobody has looked into yet. */
@Component
class ContentReading {
  private static final Logger LOG = LoggerFactory.getLogger(ContentReading.class);
  private static final int BATCH = 200;

  /** After so long a stretch of small files the disk is left to others for a moment. */
  private static final Duration STRETCH = Duration.ofMillis(600);

  private final VersionRows.Contents contents;
  private final VersionRows.Copies copies;
  private final VersionRecorder recorder;
  private final JudgedBefore before;
  private final FolderService places;
  private final Engine engine;
  private final ReaderProcess reader;
  private final InstantSource clock;

  ContentReading(
      VersionRows.Contents contents,
      VersionRows.Copies copies,
      VersionRecorder recorder,
      JudgedBefore before,
      FolderService places,
      Engine engine,
      @Qualifier("contentReader") ReaderProcess reader,
      InstantSource clock) {
    this.clock = clock;
    this.contents = contents;
    this.copies = copies;
    this.recorder = recorder;
    this.before = before;
    this.places = places;
    this.engine = engine;
    this.reader = reader;
  }

  @Scheduled(fixedDelay = 700, initialDelay = 1000)
  void readSome() {
    long until = System.nanoTime() + STRETCH.toNanos();
    try {
      List<ContentRow> unread = contents.unread(clock.instant(), Limit.of(BATCH));
      for (ContentRow row : unread) {
        if (standsBack() || System.nanoTime() > until) {
          break;
        }
        HealthReport report = report(row);
        if (report.verdict() == Verdict.NOT_CHECKED) {
          recorder.readLater(row, report, clock.instant());
        } else {
          recorder.read(row, report);
        }
      }
      if (unread.isEmpty() && !standsBack()) {
        before.one(this::report);
      }
    } catch (DataAccessException | TransactionException away) {
      LOG.debug("Reading waits for the records: {}", away.getMessage());
    }
  }

  private boolean standsBack() {
    return engine.projects().stream().anyMatch(k -> k.watch().standsBack().isPresent());
  }

  /** Kavrin's own copies first: nobody writes into those. */
  private HealthReport report(ContentRow row) {
    ContentId content = ContentId.parse(row.length + "-" + row.digest);
    List<Path> files =
        copies.findByContentIdInAndGoneIsNull(List.of(row.id)).stream()
            .sorted(Comparator.comparing(c -> !CopyKind.valueOf(c.sourceKind).isOurs()))
            .flatMap(c -> places.byKey(c.placeId).map(p -> p.path().resolve(c.relPath)).stream())
            .filter(engine.disk()::isFile)
            .toList();
    for (Path file : files) {
      try {
        Optional<HealthReport> report =
            Unchanged.read(engine.disk(), file, content, f -> reader.inspect(f, "x." + row.ext));
        if (report.isPresent()) {
          return report.get();
        }
      } catch (IOException unreadable) {
        LOG.debug("{} cannot be read: {}", file, unreadable.getMessage());
      }
    }
    return HealthReport.notYet(
        files.isEmpty()
            ? "No copy could be reached."
            : "Each copy that could be reached was written meanwhile or cannot be read.");
  }
}
