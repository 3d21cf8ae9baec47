package dev.kavrin.server.plan;

import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.PlanFigures;
import dev.kavrin.core.plan.PlanInputs;
import dev.kavrin.core.plan.RunFigures;
import dev.kavrin.core.store.CaptureRecord;
import dev.kavrin.core.store.JournalEntry;
import dev.kavrin.core.store.ProjectRecord;
import dev.kavrin.core.store.RecoveryFolder;
import dev.kavrin.core.store.RunMeasure;
import dev.kavrin.core.store.Watch;
import dev.kavrin.server.capture.Kept;
import dev.kavrin.server.place.FolderCheck;
import dev.kavrin.server.place.PlaceRole;
import dev.kavrin.server.place.PlaceService;
import dev.kavrin.server.project.ProjectService;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Weighs a plan before it is applied. */
@RestController
class PlanController {
  private final ProjectService projects;
  private final PlaceService places;

  PlanController(ProjectService projects, PlaceService places) {
    this.projects = projects;
    this.places = places;
  }

  /**
   * @param document the one it is for, null for all that have none of their own
   */
  record PlanRequest(@NotNull Plan plan, @Nullable UUID document) {}

  /**
   * @param drops copies that applying would move to the bin
   * @param dropBytes room they take
   * @param run the same for runs, null if none of the documents is one
   * @param inputs what the figures were computed from
   * @param recovery how the recovery folder stands
   */
  record PlanAnswer(
      PlanFigures figures,
      @Nullable RunFigures run,
      int drops,
      long dropBytes,
      PlanInputs inputs,
      FolderCheck recovery) {}

  @PostMapping("/api/projects/{id}/plan/figures")
  PlanAnswer figures(@PathVariable UUID id, @Valid @RequestBody PlanRequest request)
      throws IOException {
    Kept kept = projects.kept(id);
    ProjectRecord present = kept.project();
    ProjectRecord planned =
        request.document() == null
            ? present.with(present.program(), request.plan())
            : present.except(request.document(), request.plan());
    List<UUID> documents =
        request.document() == null
            ? kept.recovery().history().documents(id).stream()
                .filter(d -> !d.linked() && !present.exceptions().containsKey(d.id()))
                .map(JournalEntry.DocumentSet::id)
                .toList()
            : List.of(request.document());
    PlanInputs inputs = inputs(kept, documents);
    List<CaptureRecord> dropped = new ArrayList<>();
    for (UUID document : documents) {
      KeepDecision decision = kept.keeper().decide(planned, document);
      kept.recovery().history().captures(document).stream()
          .filter(c -> decision.dropped().contains(c.state()))
          .forEach(dropped::add);
    }
    return new PlanAnswer(
        PlanFigures.of(request.plan(), inputs),
        runFigures(kept, request.plan(), documents),
        dropped.size(),
        dropped.stream().mapToLong(c -> c.content().length()).sum(),
        inputs,
        places.check(kept.project().recovery(), PlaceRole.RECOVERY, kept.project().folder()));
  }

  @Nullable
  private static RunFigures runFigures(Kept kept, Plan plan, List<UUID> documents) {
    List<UUID> runs =
        kept.recovery().history().documents(kept.project().id()).stream()
            .filter(d -> documents.contains(d.id()) && kept.project().isRun(d.path()))
            .map(JournalEntry.DocumentSet::id)
            .toList();
    int places = kept.project().recoveries().size();
    return kept.project().sets() == null
        ? null
        : RunFigures.of(plan, RunMeasure.of(kept.recovery().history(), runs, places));
  }

  private static PlanInputs inputs(Kept kept, List<UUID> documents) {
    List<Watch.Status> all =
        kept.watch().status().stream().filter(s -> documents.contains(s.document())).toList();
    long size =
        Stream.concat(
                all.stream().map(Watch.Status::size),
                all.stream()
                    .flatMap(s -> kept.recovery().history().protecting(s.document()).stream())
                    .map(c -> c.content().length()))
            .max(Long::compare)
            .orElse(0L);
    List<Long> times =
        kept.recovery().history().allCaptures().stream()
            .filter(c -> documents.contains(c.document()))
            .map(CaptureRecord::millis)
            .filter(m -> m > 0)
            .sorted()
            .toList();
    Duration copyTime = times.isEmpty() ? null : Duration.ofMillis(times.get(times.size() / 2));
    return new PlanInputs(
        size,
        kept.project().program().writesEvery(),
        copyTime,
        Math.max(1, all.size()),
        kept.project().recoveries().size(),
        rates(kept));
  }

  private static Map<String, Long> rates(Kept kept) {
    Map<String, Long> rates = new LinkedHashMap<>();
    for (RecoveryFolder folder : kept.recoveries().all()) {
      kept.recoveries().rate(folder).ifPresent(r -> rates.put(folder.root().toString(), r));
    }
    return rates;
  }
}
