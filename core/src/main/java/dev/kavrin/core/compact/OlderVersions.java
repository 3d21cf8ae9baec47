package dev.kavrin.core.compact;

import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.plan.Compacting;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.watch.FolderHours;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The older versions of a project, compacted by themselves while nobody works, in each of its
 * backup folders. Works in small helpings and can be stopped between any two.
 */
public final class OlderVersions {
  /** Read in one go before anything else has its turn. */
  private static final long HELPING = 256_000_000;

  private static final int HELPING_VERSIONS = 100;

  /** Nobody works if no version is newer than that. */
  private static final Duration QUIET = Duration.ofMinutes(15);

  private static final Duration CLEAN_EVERY = Duration.ofHours(6);

  /** Compacted versions that tell what others will take. */
  private static final int ENOUGH = 5;

  private static final Duration SHARE_FOR = Duration.ofMinutes(1);

  /** What is free again must be worth a person's attention. */
  private static final long WORTH = 256_000_000;

  private final CompactedDisk disk;
  private final BackupFolders folders;
  private final Compactor compactor;
  private final PackCleanup cleanup;
  private final FolderHours.Rests rests;
  private final Clockwork clock;
  private final ProposalWatch proposals;
  private volatile Share share;
  private final Map<UUID, Duration> cleaned = new ConcurrentHashMap<>();

  public OlderVersions(
      CompactedDisk disk,
      Publisher publisher,
      BackupFolders folders,
      FolderHours.Rests rests,
      Clockwork clock) {
    this(disk, publisher, folders, rests, clock, WORTH);
  }

  OlderVersions(
      CompactedDisk disk,
      Publisher publisher,
      BackupFolders folders,
      FolderHours.Rests rests,
      Clockwork clock,
      long worth) {
    this.disk = disk;
    this.folders = folders;
    this.compactor = new Compactor(disk, publisher, clock);
    this.cleanup = new PackCleanup(disk, publisher, clock);
    this.rests = rests;
    this.clock = clock;
    this.proposals = new ProposalWatch(worth, clock);
  }

  /**
   * How a project stands in its first folder.
   *
   * @param compacted versions that are
   * @param plain bytes they would take as plain files
   * @param stored bytes they take
   * @param due versions the plan wants compacted and that are not yet
   * @param dueBytes of those
   */
  public record Compacted(int compacted, long plain, long stored, int due, long dueBytes) {}

  public Compacted standing(ProjectRecord project) {
    History history = folders.first().history();
    List<BackupRecord> compacted =
        history.documents(project.id()).stream()
            .flatMap(d -> history.captures(d.id()).stream())
            .filter(b -> history.isCompacted(b.path()))
            .toList();
    List<BackupRecord> due = due(history, project);
    return new Compacted(
        compacted.size(),
        bytes(compacted),
        onDisk(folders.first(), compacted),
        due.size(),
        bytes(due));
  }

  /** Bytes of their packs and recipes, what is no longer needed of those included. */
  private long onDisk(BackupFolder folder, List<BackupRecord> compacted) {
    Packs packs = new Packs(disk, folder);
    try {
      long all = 0;
      for (UUID document : compacted.stream().map(BackupRecord::document).distinct().toList()) {
        for (Path pack : packs.in(packs.of(document))) {
          all += size(pack);
        }
      }
      for (BackupRecord backup : compacted) {
        all += size(CompactedDisk.recipeOf(folder.absolute(backup.path())));
      }
      return all;
    } catch (IOException away) {
      return compacted.stream().mapToLong(folder.history()::stored).sum();
    }
  }

  private long size(Path file) throws IOException {
    return disk.facts(file).map(FileFacts::size).orElse(0L);
  }

  /**
   * What a compacted version takes, as a share of a plain one; null before some are. Looked up once
   * a minute.
   */
  @Nullable
  public Double share(ProjectRecord project) {
    Share known = share;
    if (known == null || clock.running().minus(known.at).compareTo(SHARE_FOR) >= 0) {
      Compacted now = standing(project);
      if (now.compacted < ENOUGH) {
        return null;
      }
      known = new Share(clock.running(), (double) now.stored / now.plain);
      share = known;
    }
    return known.of;
  }

  private record Share(Duration at, double of) {}

  private static long bytes(List<BackupRecord> backups) {
    return backups.stream().mapToLong(b -> b.content().length()).sum();
  }

  /** Those of all documents, each by its own plan. */
  private static List<BackupRecord> due(History history, ProjectRecord project) {
    return history.documents(project.id()).stream()
        .flatMap(d -> due(history, project, d.id()).stream())
        .toList();
  }

  private static List<BackupRecord> due(History history, ProjectRecord project, UUID document) {
    Compacting wish = project.planFor(document).compacting();
    return wish.on() ? Compactable.of(history, document, wish) : List.of();
  }

  /** One helping for each folder that is here and may be worked in. */
  public void tick(ProjectRecord project) throws IOException {
    for (BackupFolder folder : folders.current()) {
      boolean awake = rests.why(folder.root()).isEmpty();
      if (awake && !folder.dropsPaused().get() && isQuiet(folder.history(), project)) {
        tick(folder, project);
        proposals.look(project, folder.history(), this);
      }
    }
  }

  /** That compacting would pay, once that was found out; empty while the plan wants it anyway. */
  public Optional<CompactingProposal> proposal() {
    return proposals.present();
  }

  private void tick(BackupFolder folder, ProjectRecord project) throws IOException {
    if (!folder.packing().tryLock()) {
      return;
    }
    try {
      Duration last = cleaned.get(folder.uuid());
      if (helping(folder, project).versions() == 0
          && (last == null || clock.running().minus(last).compareTo(CLEAN_EVERY) >= 0)) {
        cleaned.put(folder.uuid(), clock.running());
        cleanup.clean(folder);
      }
    } finally {
      folder.packing().unlock();
    }
  }

  /** Of one document; nothing if none is due, or none of those can be. */
  private Compactor.Outcome helping(BackupFolder folder, ProjectRecord project) throws IOException {
    for (DocumentSet document : folder.history().documents(project.id())) {
      List<BackupRecord> due = due(folder.history(), project, document.id());
      Compactor.Outcome done = compactor.compact(folder, document.id(), helping(due));
      if (done.versions() > 0) {
        return done;
      }
    }
    return Compactor.Outcome.NONE;
  }

  /** Told of versions that are still to be compacted. */
  public interface Progress {
    /** May throw to stop. */
    void left(int versions);
  }

  /**
   * At a person's word: all that is due, whoever works meanwhile, then packs of which little is
   * needed.
   */
  public Compactor.Outcome now(ProjectRecord project, Progress progress) throws IOException {
    Compactor.Outcome all = Compactor.Outcome.NONE;
    for (BackupFolder folder : folders.current()) {
      Compactor.Outcome done;
      do {
        progress.left(due(folder.history(), project).size());
        done = helping(folder, project);
        all = all.and(done);
      } while (done.versions() > 0);
      cleanup.clean(folder);
    }
    return all;
  }

  private boolean isQuiet(History history, ProjectRecord project) {
    Instant since = clock.instant().minus(QUIET);
    return history.documents(project.id()).stream()
        .flatMap(d -> history.captures(d.id()).stream())
        .noneMatch(b -> b.workTo().isAfter(since));
  }

  private static List<BackupRecord> helping(List<BackupRecord> due) {
    List<BackupRecord> helping = new ArrayList<>();
    long bytes = 0;
    for (BackupRecord backup : due) {
      if (bytes > HELPING || helping.size() >= HELPING_VERSIONS) {
        break;
      }
      helping.add(backup);
      bytes += backup.content().length();
    }
    return helping;
  }

  /**
   * What compacting would come to.
   *
   * @param versions that would be compacted
   * @param measured of them that were read for it
   * @param before bytes of all of them
   * @param after bytes they would take, from those that were read
   * @param time it would take, likewise
   */
  public record Estimate(int versions, int measured, long before, long after, Duration time) {}

  /**
   * Reads some of a project's own versions and tells; nothing is written.
   *
   * @param asIf which are to stay plain
   */
  public Estimate estimate(ProjectRecord project, Compacting asIf) throws IOException {
    BackupFolder folder = folders.first();
    Estimate all = new Estimate(0, 0, 0, 0, Duration.ZERO);
    for (DocumentSet document : folder.history().documents(project.id())) {
      List<BackupRecord> due = Compactable.of(folder.history(), document.id(), asIf);
      if (!due.isEmpty()) {
        Estimate one = compactor.estimate(folder, document.id(), due);
        all =
            new Estimate(
                all.versions + one.versions,
                all.measured + one.measured,
                all.before + one.before,
                all.after + one.after,
                all.time.plus(one.time));
      }
    }
    return all;
  }
}
