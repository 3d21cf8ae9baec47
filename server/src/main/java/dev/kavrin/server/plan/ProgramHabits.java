package dev.kavrin.server.plan;

import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.OwnWrites;
import dev.kavrin.core.plan.PlanInputs;
import dev.kavrin.core.plan.ProgramStall;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.program.ProgramAudits;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.ActivityLog;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** How a program saves of its own accord, as it was seen and as its settings say. */
@Component
class ProgramHabits {
  private final ProjectService projects;
  private final ProgramAudits audits;
  private final Activities activities;
  private final ActivityLog log;

  ProgramHabits(
      ProjectService projects, ProgramAudits audits, Activities activities, ActivityLog log) {
    this.projects = projects;
    this.audits = audits;
    this.activities = activities;
    this.log = log;
  }

  /** What plans of these documents are weighed with. */
  PlanInputs inputs(Kept kept, List<UUID> documents) {
    return PlanMeasure.inputs(
        kept, documents, writes(kept, documents).orElse(null), stall(kept, documents).orElse(null));
  }

  /** Of the document that was written most often. */
  private Optional<OwnWrites> writes(Kept kept, List<UUID> documents) {
    Duration setting = audits.writesEvery(kept);
    Activity activity = activities.of(kept, documents);
    List<Instant> written = new ArrayList<>();
    mostWritten(activity)
        .ifPresent(
            document -> {
              activity.writes().get(document).forEach(w -> written.add(w.at()));
              log.programCopies(projects.document(document), kept)
                  .forEach(c -> written.add(c.from()));
            });
    return OwnWrites.of(setting, activity.worked(), written);
  }

  /** The document that was saved most often; empty if none was. */
  static Optional<UUID> mostWritten(Activity activity) {
    return activity.writes().entrySet().stream()
        .max(
            Comparator.comparingInt(
                (Map.Entry<UUID, List<Activity.Write>> e) -> e.getValue().size()))
        .map(Map.Entry::getKey);
  }

  private static Optional<ProgramStall> stall(Kept kept, List<UUID> documents) {
    return ProgramStall.of(
        documents.stream()
            .flatMap(d -> kept.folder().history().programWrote(d).stream())
            .filter(w -> w.kind() == CopyKind.AUTOSAVE)
            .map(w -> new ProgramStall.Write(w.size(), w.millis()))
            .toList());
  }
}
