package dev.kavrin.server.plan;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.incident.AsWritten;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.PastLoss;
import dev.kavrin.core.plan.PastLoss.Survivor;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.Replay;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.ActivityLog;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** What each way to lose would have cost under a plan, over the work that was recorded. */
@Component
class PastLosses {
  private final ProjectService projects;
  private final Activities activities;
  private final ActivityLog log;
  private final Disk disk;

  PastLosses(ProjectService projects, Activities activities, ActivityLog log, Engine engine) {
    this.projects = projects;
    this.activities = activities;
    this.log = log;
    this.disk = engine.disk();
  }

  /**
   * Of the document that was saved most often; each null where nothing tells.
   *
   * @param programDies every file survives
   * @param fileLost every other copy survives
   * @param diskLost backups on another disk survive, those elsewhere too
   * @param siteLost backups elsewhere survive
   * @param otherDisk false if no backup lies on another disk than the work
   * @param elsewhere false if none is sent elsewhere
   */
  record Past(
      @Nullable PastLoss programDies,
      @Nullable PastLoss fileLost,
      @Nullable PastLoss diskLost,
      @Nullable PastLoss siteLost,
      boolean otherDisk,
      boolean elsewhere) {}

  /**
   * @param takes how long one backup takes, null if unknown
   */
  Past of(Kept kept, Plan plan, List<UUID> documents, @Nullable Duration takes) {
    boolean elsewhere =
        new Elsewhere(kept.folders().history())
            .stores(kept.project().id()).stream().anyMatch(s -> !s.paused());
    boolean otherFolder = isOnAnotherDisk(kept);
    boolean otherDisk = otherFolder || elsewhere;
    UUID document = ProgramHabits.mostWritten(activities.of(kept, documents)).orElse(null);
    if (document == null) {
      return new Past(null, null, null, null, otherDisk, elsewhere);
    }
    Activity activity = activities.of(kept, List.of(document));
    Duration copying = takes == null ? Duration.ZERO : takes;
    List<Survivor> sent = Replay.backups(plan, activity, document, copying);
    List<Survivor> backups = new ArrayList<>(sent);
    List<Survivor> own = log.programCopies(projects.document(document), kept);
    if (plan.programCopies().on()) {
      own.forEach(c -> backups.add(keptAsWritten(c, copying)));
    }
    List<Survivor> copies = new ArrayList<>(backups);
    copies.addAll(own);
    List<Survivor> files = new ArrayList<>(copies);
    activity.writes().get(document).forEach(w -> files.add(Survivor.at(w.at())));
    return new Past(
        PastLoss.of(activity.worked(), files).orElse(null),
        PastLoss.of(activity.worked(), copies).orElse(null),
        otherDisk
            ? PastLoss.of(activity.worked(), otherFolder ? backups : sent).orElse(null)
            : null,
        elsewhere ? PastLoss.of(activity.worked(), sent).orElse(null) : null,
        otherDisk,
        elsewhere);
  }

  /** In the backup folders it outlives the file that its program writes over. */
  private static Survivor keptAsWritten(Survivor copy, Duration copying) {
    return new Survivor(copy.holds(), copy.from().plus(AsWritten.RESTS).plus(copying), null);
  }

  private boolean isOnAnotherDisk(Kept kept) {
    try {
      String work = disk.device(Path.of(kept.project().folder()));
      for (BackupFolder folder : kept.folders().all()) {
        if (!disk.device(folder.root()).equals(work)) {
          return true;
        }
      }
    } catch (IOException away) {
      return false;
    }
    return false;
  }
}
