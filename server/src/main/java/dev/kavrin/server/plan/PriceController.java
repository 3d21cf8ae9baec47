package dev.kavrin.server.plan;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.plan.SizeBreakdown;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.Summaries;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What copies cost, as measured: in each place, and by what is inside the file. */
@RestController
class PriceController {
  private static final Duration DAY = Duration.ofDays(1);

  private final ProjectService projects;
  private final FolderService places;
  private final Summaries summaries;
  private final Disk disk;
  private final InstantSource clock;

  PriceController(
      ProjectService projects,
      FolderService places,
      Summaries summaries,
      Disk disk,
      InstantSource clock) {
    this.projects = projects;
    this.places = places;
    this.summaries = summaries;
    this.disk = disk;
    this.clock = clock;
  }

  /**
   * What a copy costs in one recovery folder.
   *
   * @param copying median time of one copy there, null if none was made
   * @param copies it was measured over
   * @param aDay bytes of copies of work done within the last day
   * @param free bytes, 0 while it is away
   * @param fullAt when it is full if that goes on, null if not within 30 days
   */
  record PlacePrice(
      String path,
      boolean here,
      @Nullable Duration copying,
      int copies,
      long aDay,
      long free,
      @Nullable Instant fullAt) {}

  /**
   * @param inside what the largest document is made up of, null for kinds that do not tell
   * @param largest its name, null without documents
   * @param size bytes of it
   */
  record PriceView(
      List<PlacePrice> places,
      @Nullable SizeBreakdown inside,
      @Nullable String largest,
      long size) {}

  /**
   * @param document the one it is for, null for all that have no plan of their own
   */
  @GetMapping("/api/projects/{id}/plan/price")
  PriceView price(@PathVariable UUID id, @RequestParam(required = false) UUID document) {
    Kept kept = projects.kept(id);
    List<UUID> documents = PlanMeasure.documents(kept, document);
    Watch.Status largest =
        kept.watch().status().stream()
            .filter(s -> documents.contains(s.document()))
            .max(Comparator.comparingLong(Watch.Status::size))
            .orElse(null);
    Document shown = largest == null ? null : projects.document(largest.document());
    return new PriceView(
        kept.folders().all().stream().map(f -> place(f, documents)).toList(),
        shown == null ? null : inside(shown.live()),
        shown == null ? null : shown.path(),
        largest == null ? 0 : largest.size());
  }

  private PlacePrice place(BackupFolder folder, List<UUID> documents) {
    List<BackupRecord> made =
        folder.history().allCaptures().stream()
            .filter(c -> documents.contains(c.document()))
            .toList();
    List<Long> times = made.stream().map(BackupRecord::millis).filter(m -> m > 0).sorted().toList();
    Instant since = clock.instant().minus(DAY);
    long aDay =
        made.stream()
            .filter(c -> c.workTo().isAfter(since))
            .mapToLong(c -> c.content().length())
            .sum();
    Folder place = places.byPath(folder.root()).filter(places::isHere).orElse(null);
    long free = 0;
    try {
      free = place == null ? 0 : disk.room(folder.root());
    } catch (IOException away) {
      place = null;
    }
    return new PlacePrice(
        folder.root().toString(),
        place != null,
        times.isEmpty() ? null : Duration.ofMillis(times.get(times.size() / 2)),
        times.size(),
        aDay,
        free,
        place == null ? null : summaries.fullAt(place, free).orElse(null));
  }

  @Nullable
  private SizeBreakdown inside(Path file) {
    String ext = FileName.of(file.getFileName().toString()).lowerExt();
    try (SeekableByteChannel in = disk.read(file)) {
      return SizeBreakdown.of(in, ext).orElse(null);
    } catch (IOException unreadable) {
      return null;
    }
  }
}
