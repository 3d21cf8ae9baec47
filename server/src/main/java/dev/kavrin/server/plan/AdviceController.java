package dev.kavrin.server.plan;

import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.Advice;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.PlanInputs;
import dev.kavrin.core.plan.Replay;
import dev.kavrin.core.plan.RunInputs;
import dev.kavrin.core.plan.Spacing;
import dev.kavrin.core.plan.Worked;
import dev.kavrin.server.backup.Kept;
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
import java.util.Optional;
import java.util.UUID;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What plans would have meant over the work that was seen, and which would be better. */
@RestController
class AdviceController {
  private final ProjectService projects;
  private final ProgramHabits habits;
  private final Activities activities;

  AdviceController(ProjectService projects, ProgramHabits habits, Activities activities) {
    this.projects = projects;
    this.habits = habits;
    this.activities = activities;
  }

  /**
   * @param plans one to three; the first is the one at hand
   * @param document the one they are for, null for all that have none of their own
   */
  record AdviceRequest(
      @NotEmpty @Size(max = 3) List<@NotNull Plan> plans, @Nullable UUID document) {}

  /** What a plan would have meant. */
  record Replayed(
      List<Replay.Loss> losses,
      Duration lost,
      int copies,
      long written,
      List<Replay.Day> days,
      long peak) {}

  /**
   * @param advice on the program's own autosave, or on the restart files of runs
   * @param spacing of Kavrin's own backups under the first plan, null for runs
   * @param replays one for each plan
   * @param proposed that of the proposal, null without one
   * @param since first write seen, null without any
   * @param sittings when work was done
   * @param unwatched crashes nobody watched; they are left out of totals
   */
  record AdviceAnswer(
      Advice advice,
      @Nullable Spacing spacing,
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
    PlanInputs inputs = habits.inputs(kept, documents);
    Optional<RunInputs> run = PlanMeasure.runs(kept, documents);
    Advice advice =
        run.map(r -> Advice.ofRun(plan, inputs, r, activity.rate(), plan.reckoning()))
            .orElseGet(() -> Advice.ofProgram(inputs, activity.rate(), plan.reckoning()));
    Spacing spacing = run.isPresent() ? null : Spacing.of(plan, inputs);
    Plan proposed =
        spacing == null
            ? advice.proposal() == null ? null : advice.proposal().plan()
            : spacing.proposal() == null ? null : spacing.proposal().plan();
    int places = kept.project().recoveries().size();
    return new AdviceAnswer(
        advice,
        spacing,
        request.plans().stream().map(p -> replayed(Replay.of(p, activity, places))).toList(),
        proposed == null ? null : replayed(Replay.of(proposed, activity, places)),
        activity.writes().values().stream()
            .map(w -> w.get(0).at())
            .min(Comparator.naturalOrder())
            .orElse(null),
        activity.worked().sittings(),
        (int) activity.crashes().stream().filter(c -> !activity.isWatched(c)).count());
  }

  private static Replayed replayed(Replay replay) {
    return new Replayed(
        replay.losses(),
        replay.lost(),
        replay.copies(),
        replay.written(),
        replay.days(),
        replay.peak());
  }
}
