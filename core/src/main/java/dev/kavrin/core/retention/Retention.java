package dev.kavrin.core.retention;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.ClearOut;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.plan.Plan;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.UUID;

/**
 * Applies a plan's keep rules to each recovery folder of a project: journal, then bin, much later
 * gone. One document waits for itself only; deciding never waits.
 */
public final class Retention {
  private final Disk disk;
  private final BackupFolders recoveries;
  private final RoomLimits limits;
  private final InstantSource clock;
  private final Bin bin;
  private final Scrub rereading;
  private final Drops drops;

  public Retention(Disk disk, Publisher publisher, BackupFolders recoveries, InstantSource clock) {
    this(disk, publisher, recoveries, RoomLimits.OF_PROJECT, clock);
  }

  /**
   * @param limits room that versions share with others
   */
  public Retention(
      Disk disk,
      Publisher publisher,
      BackupFolders recoveries,
      RoomLimits limits,
      InstantSource clock) {
    this.disk = disk;
    this.recoveries = recoveries;
    this.limits = limits;
    this.clock = clock;
    this.bin = new Bin(disk, publisher, clock);
    this.rereading = new Scrub(disk, publisher, clock);
    this.drops = new Drops(disk, publisher, rereading, clock);
  }

  /** What a project's plan keeps and drops of a document now; nothing is done. */
  public KeepDecision decide(ProjectRecord project, UUID document) {
    History history = recoveries.history();
    return decide(
        project, document, history, new KeepInputs(history, document).states(), clock.instant());
  }

  public static KeepDecision decide(
      ProjectRecord project, UUID document, History history, List<KeepState> states, Instant now) {
    Plan plan = project.planFor(document);
    KeepInputs inputs = new KeepInputs(history, document);
    ZoneId zone = ZoneId.of(project.zone());
    return KeepDecision.of(
        plan.keep()
            .rule(now, zone, inputs.incidents(), plan.runs(), inputs.sets(), plan.programCopies()),
        states);
  }

  /**
   * Drops what the plan no longer keeps, in every folder that holds all there is; then, whatever
   * document it is of, what the room that several share does not hold.
   *
   * @return dropped copies of the document by its own rules; none where the protecting copy fails
   *     its re-reading
   */
  public List<BackupRecord> apply(ProjectRecord project, UUID document) throws IOException {
    List<BackupRecord> dropped =
        recoveries.alone(
            document,
            () -> {
              List<BackupRecord> gone = new ArrayList<>();
              for (BackupFolder folder : recoveries.current()) {
                gone.addAll(apply(folder, project, document));
              }
              return gone;
            });
    for (BackupFolder folder : recoveries.current()) {
      for (SharedRoom room : limits.of(recoveries, folder, project)) {
        fit(room);
      }
    }
    return dropped;
  }

  /**
   * Drops what limited room does not hold, of whichever project. Nobody has two documents at once:
   * each is judged anew while nobody else does.
   */
  public void fit(SharedRoom room) throws IOException {
    for (SharedRoom.Going going : room.going(clock.instant())) {
      SharedRoom.Holding at = going.holding();
      at.folders().alone(going.document(), () -> dropBeyond(room, going));
    }
    if (room.taken() > room.bytes()) {
      for (BackupFolder folder : room.folders()) {
        bin.empty(folder, true);
      }
    }
  }

  private void dropBeyond(SharedRoom room, SharedRoom.Going shown) throws IOException {
    BackupFolder folder = shown.holding().folder();
    Set<String> going = room.still(shown, clock.instant());
    if (going.isEmpty()
        || folder.dropsPaused().get()
        || !shown.holding().folders().current().contains(folder)
        || !drops.areSafe(folder, shown.document())) {
      return;
    }
    for (BackupRecord backup : folder.history().captures(shown.document())) {
      if (going.contains(backup.state())) {
        drops.drop(folder, backup, Operation.Drop.BY_PLAN);
      }
    }
  }

  private List<BackupRecord> apply(BackupFolder folder, ProjectRecord project, UUID document)
      throws IOException {
    List<BackupRecord> dropped = goingByPlan(folder.history(), project, document);
    if (folder.dropsPaused().get() || dropped.isEmpty() || !drops.areSafe(folder, document)) {
      return List.of();
    }
    for (BackupRecord backup : dropped) {
      drops.drop(folder, backup, Operation.Drop.BY_PLAN);
    }
    bin.empty(folder, false);
    return dropped;
  }

  private List<BackupRecord> goingByPlan(History history, ProjectRecord project, UUID document) {
    KeepInputs inputs = new KeepInputs(history, document);
    KeepDecision decision = decide(project, document, history, inputs.states(), clock.instant());
    List<BackupRecord> superseded = inputs.superseded();
    return history.captures(document).stream()
        .filter(b -> decision.dropped().contains(b.state()) || superseded.contains(b))
        .toList();
  }

  /** What clearing out would drop of a document in its first folder; nothing is done. */
  public KeepDecision decide(ClearOut wish, UUID document) {
    return decide(wish, document, recoveries.history());
  }

  private KeepDecision decide(ClearOut wish, UUID document, History history) {
    return KeepDecision.of(
        wish.rule(clock.instant(), new KeepInputs(history, document).sets()),
        new KeepInputs(history, document).states());
  }

  /**
   * Drops what a person wants to be rid of, in every folder that holds all there is.
   *
   * @param states those that were shown to go; others stay even if the wish would take them now
   * @return dropped copies; none where the protecting copy fails its re-reading
   */
  public List<BackupRecord> clearOut(ClearOut wish, UUID document, Set<String> states, String who)
      throws IOException {
    return recoveries.alone(document, () -> cleared(wish, document, states, who));
  }

  private List<BackupRecord> cleared(ClearOut wish, UUID document, Set<String> states, String who)
      throws IOException {
    List<BackupRecord> dropped = new ArrayList<>();
    for (BackupFolder folder : recoveries.current()) {
      History history = folder.history();
      List<String> going = decide(wish, document, history).dropped();
      if (folder.dropsPaused().get() || going.isEmpty() || !drops.areSafe(folder, document)) {
        continue;
      }
      for (BackupRecord capture : history.captures(document)) {
        if (going.contains(capture.state()) && states.contains(capture.state())) {
          drops.drop(folder, capture, "cleared out by " + who);
          dropped.add(capture);
        }
      }
    }
    return dropped;
  }

  /** Reads that copy of each folder again which was read longest ago, if longer than that. */
  public void rereadOldest(Duration every) throws IOException {
    for (BackupFolder folder : recoveries.current()) {
      rereading.rereadOldest(folder, every);
    }
  }

  /**
   * Reads all copies of a state again.
   *
   * @return how many of them are what was written
   */
  public int reread(UUID document, Set<String> states) throws IOException {
    int whole = 0;
    for (BackupFolder folder : recoveries.current()) {
      for (BackupRecord copy : folder.history().captures(document)) {
        if (states.contains(copy.state())) {
          whole += rereading.reread(folder, copy) ? 1 : 0;
        }
      }
    }
    return whole;
  }

  /**
   * Moves a project's copies out of a folder it leaves: each goes to the bin once another folder
   * was read to hold the same, whole. May be stopped and taken up again at any point.
   *
   * @return true once none is left there
   */
  public boolean leave(BackupFolder folder, ProjectRecord project) throws IOException {
    boolean left = true;
    for (JournalEntry.DocumentSet document : folder.history().documents(project.id())) {
      left &= recoveries.alone(document.id(), () -> leave(folder, document.id()));
    }
    return left;
  }

  private boolean leave(BackupFolder folder, UUID document) throws IOException {
    boolean left = true;
    for (BackupRecord capture : folder.history().captures(document)) {
      if (!folder.dropsPaused().get() && standsElsewhere(folder, capture)) {
        drops.drop(folder, capture, "moved to another backup folder");
      } else {
        left = false;
      }
    }
    return left;
  }

  private boolean standsElsewhere(BackupFolder folder, BackupRecord capture) throws IOException {
    for (BackupFolder other : recoveries.current()) {
      for (BackupRecord copy :
          other == folder
              ? List.<BackupRecord>of()
              : other.history().captures(capture.document())) {
        if (copy.content().equals(capture.content())
            && rereading.isWhole(other, copy, Drops.BEFORE_A_DROP)) {
          return true;
        }
      }
    }
    return false;
  }

  /** Takes a copy back out of the bin, under its former name. */
  public void takeBack(String binned) throws IOException {
    for (BackupFolder folder : recoveries.all()) {
      for (History.Binned found : folder.history().bin()) {
        if (found.bin().equals(binned)) {
          takeBack(folder, found);
          return;
        }
      }
    }
    throw new NoSuchFileException(binned);
  }

  private void takeBack(BackupFolder folder, History.Binned binned) throws IOException {
    Path from = folder.owned(binned.bin());
    if (disk.facts(from).isEmpty()) {
      throw new NoSuchFileException(from.toString());
    }
    String path = binned.capture().path();
    drops.move(folder, Operation.of(new Operation.TakeBack(binned.bin(), path)), from, path);
  }

  /** Deletes for good what has been in the bins for its whole time. */
  public int emptyBin() throws IOException {
    int purged = 0;
    for (BackupFolder folder : recoveries.current()) {
      purged += bin.empty(folder, false);
    }
    return purged;
  }
}
