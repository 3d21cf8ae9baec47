package dev.kavrin.core.incident;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder.How;
import dev.kavrin.core.backup.SourceException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.incident.Leftovers.Leftover;
import dev.kavrin.core.incident.RetainedLeftovers.Retained;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.lane.Lanes;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Keeps each content that a program writes aside, as it appears: retained at the first look that
 * sees it, where a clone or a second name can do that, copied once it rests. Nothing here waits for
 * a crash to be noticed.
 */
public final class AsWritten {
  /** Two looks have to see a content before it is copied. */
  public static final Duration RESTS = Duration.ofSeconds(2);

  /** A damaged file may be one whose program pauses in the middle of it. */
  private static final Duration MAY_GO_ON = Duration.ofSeconds(10);

  private final Disk disk;
  private final BackupFolders folders;
  private final RetainedLeftovers leftovers;
  private final Retention retention;
  private final Lanes lanes;
  private final Clockwork clock;
  private final WrittenAside aside;
  private final Map<Path, Awaited> awaited = new ConcurrentHashMap<>();
  private final Map<UUID, Kept> last = new ConcurrentHashMap<>();

  public AsWritten(
      Disk disk,
      BackupFolders folders,
      RetainedLeftovers leftovers,
      Retention retention,
      Lanes lanes,
      Clockwork clock) {
    this.disk = disk;
    this.folders = folders;
    this.leftovers = leftovers;
    this.retention = retention;
    this.lanes = lanes;
    this.clock = clock;
    this.aside = new WrittenAside(disk, clock);
  }

  /** What guards a content from its last byte on. */
  public enum Guard {
    CLONE,
    SECOND_NAME,
    COPY
  }

  /**
   * A content that was kept.
   *
   * @param file where its program wrote it
   * @param open how long nothing guarded it after its last byte
   */
  public record Kept(Path file, Guard guard, Duration open, Instant written, long size) {}

  /** What was written and is not copied yet. */
  private record Awaited(Retained retained, Guard guard, Instant guarded, boolean rests) {
    Leftover original() {
      return retained.original();
    }

    boolean isRetained() {
      return !retained.from().equals(original().path());
    }

    Awaited resting() {
      return new Awaited(retained, guard, guarded, true);
    }
  }

  /** The last content that was kept of a document since the start. */
  public Optional<Kept> last(UUID document) {
    return Optional.ofNullable(last.get(document));
  }

  /**
   * Looks once, and has copied what rests.
   *
   * @param runs false while the program cannot write
   * @param mayCopy false while the plan pauses; what can be retained without copying still is
   */
  public synchronized void tick(ProjectRecord project, boolean runs, boolean mayCopy)
      throws IOException {
    boolean looks = aside.isToBeLookedAt(runs);
    if (!looks && awaited.isEmpty()) {
      return;
    }
    WrittenAside.Look look = looks ? look(project) : aside.lastLook();
    for (Awaited a : List.copyOf(awaited.values())) {
      follow(a, look);
    }
    for (WrittenAside.New appeared : look.appeared()) {
      await(appeared);
    }
    IOException failure = null;
    for (Awaited a : List.copyOf(awaited.values())) {
      try {
        if (a.rests() && mayCopy) {
          lanes.run(
              Lane.BACKUP,
              a.original().facts().size(),
              "keeping " + a.original().path(),
              () -> copy(project, a));
        }
      } catch (IOException failed) {
        failure = failed;
      }
    }
    if (failure != null) {
      throw failure;
    }
  }

  private WrittenAside.Look look(ProjectRecord project) {
    List<DocumentSet> documents =
        folders.history().documents(project.id()).stream()
            .filter(d -> !d.linked() && project.planFor(d.id()).programCopies().on())
            .toList();
    return aside.look(project, documents, folders.livePaths(project));
  }

  /** What stands as it did rests; what is gone or replaced stays as it was retained. */
  private void follow(Awaited a, WrittenAside.Look look) throws IOException {
    FileFacts now = look.at(a.original().path());
    if (now == null || !now.key().equals(a.original().facts().key())) {
      if (a.isRetained()) {
        awaited.replace(a.retained().from(), a, a.resting());
      } else {
        awaited.remove(a.retained().from(), a);
      }
    } else if (now.sameAs(a.original().facts())) {
      awaited.replace(a.retained().from(), a, a.resting());
    } else if (awaited.remove(a.retained().from(), a)) {
      leftovers.letGo(a.retained());
    }
  }

  private void await(WrittenAside.New appeared) {
    Leftover written = appeared.leftover();
    Retained retained = leftovers.retain(List.of(written), UUID.randomUUID()).get(0);
    Guard guard = guard(retained, appeared.inPlace());
    awaited.put(retained.from(), new Awaited(retained, guard, clock.instant(), false));
  }

  /** A second name does not guard a file that its program writes over under the first. */
  private static Guard guard(Retained retained, boolean inPlace) {
    if (retained.cloned()) {
      return Guard.CLONE;
    }
    boolean named = !retained.from().equals(retained.original().path());
    return named && !inPlace ? Guard.SECOND_NAME : Guard.COPY;
  }

  private void copy(ProjectRecord project, Awaited a) throws IOException {
    BackupMaker.Result result;
    try {
      result = leftovers.copy(project, a.retained(), CopyKind.AS_WRITTEN, how(a));
    } catch (NoSuchFileException | SourceException.NotAFile gone) {
      awaited.remove(a.retained().from(), a);
      return;
    } catch (SourceException unfinished) {
      // It is looked at again; what replaced it meanwhile is awaited itself.
      return;
    }
    awaited.remove(a.retained().from(), a);
    Leftover of = a.original();
    Instant safe = a.guard() == Guard.COPY ? clock.instant() : a.guarded();
    Duration open = Duration.between(of.facts().modified(), safe);
    last.put(
        of.document(),
        new Kept(
            of.path(),
            a.guard(),
            open.isNegative() ? Duration.ZERO : open,
            of.facts().modified(),
            of.facts().size()));
    leftovers.letGo(a.retained());
    if (result.made()) {
      retention.apply(project, of.document());
    }
  }

  /** A damaged one is kept too, once its program will hardly go on with it. */
  private How how(Awaited a) {
    Instant since = a.original().facts().modified();
    boolean over = !since.isAfter(clock.instant().minus(MAY_GO_ON));
    return over || !stands(a) ? How.ANY_HEALTH : How.CAREFULLY;
  }

  private boolean stands(Awaited a) {
    FileFacts now = Leftovers.facts(disk, a.original().path());
    return now != null && now.key().equals(a.original().facts().key());
  }
}
