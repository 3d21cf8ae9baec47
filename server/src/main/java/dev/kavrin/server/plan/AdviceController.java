package dev.kavrin.server.plan;

import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.Advice;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.PlanInputs;
import dev.kavrin.core.plan.Replay;
import dev.kavrin.core.plan.Worked;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.program.ProgramAudits;
import dev.kavrin.server.project.ProjectService;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What plans would have meant over the work that was seen, and which would be better. */
@RestController
class AdviceController {
  private final ProjectService projects;
  private final ProgramAudits audits;
  private final Activities activities;

  AdviceController(ProjectService projects, ProgramAudits audits, Activities activities) {
    this.projects = projects;
    this.audits = audits;
    this.activities = activities;
  }

  /**
   * @param plans one to three; the first is the one at hand
   * @param document the one they are for, null for all that have none of their own
   */
  record AdviceRequest(
      @NotEmpty @Size(max = 3) List<@NotNull Plan> plans, @Nullable UUID document) {}

  /**
   * What a plan would have meant.
   *
   * @param stalled what its copies would have held the person up, null while that is unknown
   */
  record Replayed(
      List<Replay.Loss> losses,
      Duration lost,
      int copies,
      long written,
      @Nullable Duration stalled,
      List<Replay.Day> days,
      long peak) {}

  /**
   * @param advice for the first plan
   * @param replays one for each plan
   * @param proposed that of the advice's proposal, null without one
   * @param since first write seen, null without any
   * @param sittings when work was done
   * @param unwatched crashes nobody watched; they are left out of totals
   */
  record AdviceAnswer(
      Advice advice,
      List<Replayed> replays,
      @Nullable Replayed proposed,
      @Nullable Instant since,
      List<Worked.Sitting> sittings,
      int unwatched) {}

  @PostMapping("/api/projects/{id}/plan/advice")
  AdviceAnswer advice(@PathVariable UUID id, @Valid @RequestBody AdviceRequest request)
      throws IOException {
    Kept kept = projects.kept(id);
    List<UUID> documents = PlanMeasure.documents(kept, request.document());
    Activity activity = activities.of(kept, documents);
    Plan plan = request.plans().get(0);
    Advice advice = advice(kept, plan, documents, activity);
    int places = kept.project().recoveries().size();
    Duration stall = advice.price().stall();
    return new AdviceAnswer(
        advice,
        request.plans().stream().map(p -> replayed(Replay.of(p, activity, places), stall)).toList(),
        advice.proposal() == null
            ? null
            : replayed(Replay.of(advice.proposal().plan(), activity, places), stall),
        activity.writes().values().stream()
            .map(w -> w.get(0).at())
            .min(Comparator.naturalOrder())
            .orElse(null),
        activity.worked().sittings(),
        (int) activity.crashes().stream().filter(c -> !activity.isWatched(c)).count());
  }

  private Advice advice(Kept kept, Plan plan, List<UUID> documents, Activity activity) {
    PlanInputs inputs = PlanMeasure.inputs(kept, documents, audits.writesEvery(kept));
    return PlanMeasure.runs(kept, documents)
        .map(run -> Advice.ofRun(plan, inputs, run, activity.rate(), plan.reckoning()))
        .orElseGet(() -> Advice.of(plan, inputs, activity.rate(), plan.reckoning()));
  }

  private static Replayed replayed(Replay replay, @Nullable Duration stall) {
    return new Replayed(
        replay.losses(),
        replay.lost(),
        replay.copies(),
        replay.written(),
        stall == null ? null : stall.multipliedBy(replay.copies()),
        replay.days(),
        replay.peak());
  }
}
