package dev.kavrin.server.plan;

import dev.kavrin.core.incident.AsWritten;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.PlanFigures;
import dev.kavrin.core.plan.PlanInputs;
import dev.kavrin.core.plan.Reminder;
import dev.kavrin.core.plan.RunFigures;
import dev.kavrin.core.retention.RoomLimits;
import dev.kavrin.core.retention.SharedRoom;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.FolderCheck;
import dev.kavrin.server.folder.FolderRole;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.project.ProjectService;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Weighs a plan before it is applied. */
@RestController
class PlanController {
  private final ProjectService projects;
  private final ProgramHabits habits;
  private final FolderService places;
  private final PastLosses pastLosses;
  private final InstantSource clock;

  PlanController(
      ProjectService projects,
      ProgramHabits habits,
      FolderService places,
      PastLosses pastLosses,
      InstantSource clock) {
    this.pastLosses = pastLosses;
    this.clock = clock;
    this.projects = projects;
    this.habits = habits;
    this.places = places;
  }

  /**
   * @param document the one it is for, null for all that have none of their own
   */
  record PlanRequest(@NotNull Plan plan, @Nullable UUID document) {}

  /**
   * @param drops copies that applying would move to the bin
   * @param dropBytes room they take
   * @param past what it would have lost over the work that was recorded
   * @param run the same for runs, null if none of the documents is one
   * @param inputs what the figures were computed from
   * @param recovery how the recovery folder stands
   * @param reminder how long without a save to propose before people are reminded
   */
  record PlanAnswer(
      PlanFigures figures,
      PastLosses.Past past,
      @Nullable RunFigures run,
      int drops,
      long dropBytes,
      PlanInputs inputs,
      FolderCheck recovery,
      Duration reminder,
      @Nullable LastKept lastKept) {}

  /**
   * What a program wrote aside last and Kavrin kept.
   *
   * @param open how long nothing guarded it after its last byte
   */
  record LastKept(String file, AsWritten.Guard guard, Duration open, Instant written, long size) {}

  @PostMapping("/api/projects/{id}/plan/figures")
  PlanAnswer figures(@PathVariable UUID id, @Valid @RequestBody PlanRequest request)
      throws IOException {
    Kept kept = projects.kept(id);
    ProjectRecord present = kept.project();
    ProjectRecord planned =
        request.document() == null
            ? present.with(present.program(), request.plan())
            : present.except(request.document(), request.plan());
    List<UUID> documents = PlanMeasure.documents(kept, request.document());
    PlanInputs inputs = habits.inputs(kept, documents);
    List<BackupRecord> dropped = new ArrayList<>();
    for (UUID document : documents) {
      KeepDecision decision = kept.retention().decide(planned, document);
      kept.folder().history().captures(document).stream()
          .filter(c -> decision.dropped().contains(c.state()))
          .forEach(dropped::add);
    }
    for (SharedRoom room :
        request.document() == null
            ? RoomLimits.OF_PROJECT.of(kept.folders(), kept.folder(), planned)
            : List.<SharedRoom>of()) {
      room.going(clock.instant()).forEach(g -> dropped.addAll(g.backups()));
    }
    return new PlanAnswer(
        PlanFigures.of(request.plan(), inputs),
        pastLosses.of(kept, request.plan(), documents, inputs.copyTime()),
        PlanMeasure.runs(kept, documents)
            .map(run -> RunFigures.of(request.plan(), run))
            .orElse(null),
        dropped.size(),
        dropped.stream().mapToLong(kept.folder().history()::stored).sum(),
        inputs,
        places.check(kept.project().recovery(), FolderRole.RECOVERY, kept.project().folder()),
        Reminder.proposed(request.plan().accepted()),
        documents.stream()
            .flatMap(d -> kept.asWritten().last(d).stream())
            .max(Comparator.comparing(AsWritten.Kept::written))
            .map(k -> new LastKept(k.file().toString(), k.guard(), k.open(), k.written(), k.size()))
            .orElse(null));
  }
}
