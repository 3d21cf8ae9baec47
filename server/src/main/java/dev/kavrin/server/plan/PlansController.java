package dev.kavrin.server.plan;

import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.plan.Difference;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.server.project.ProjectService;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Plans to go back to: earlier ones, the default for new projects, factory values. */
@RestController
class PlansController {
  private final ProjectService projects;
  private final UsualPlan usual;

  PlansController(ProjectService projects, UsualPlan usual) {
    this.projects = projects;
    this.usual = usual;
  }

  /**
   * A plan as it was set once.
   *
   * @param changes against the one before, in words; none for the first
   */
  record PlanVersion(Instant at, String who, Plan plan, List<String> changes) {}

  /**
   * @param usual for new projects
   * @param factory as Kavrin came
   */
  record PlanDefaults(Plan usual, Plan factory) {}

  record DefaultRequest(@NotNull Plan plan) {}

  /** Newest first; the first is the present one. */
  @GetMapping("/api/projects/{id}/plan/versions")
  List<PlanVersion> versions(@PathVariable UUID id) {
    List<PlanVersion> versions = new ArrayList<>();
    Plan before = null;
    for (JournalEntry.ProjectSet set : projects.kept(id).folder().history().plans(id)) {
      Plan plan = set.project().plan();
      versions.add(
          new PlanVersion(
              set.at(), set.who(), plan, before == null ? List.of() : Difference.of(before, plan)));
      before = plan;
    }
    Collections.reverse(versions);
    return versions;
  }

  @GetMapping("/api/plans/defaults")
  PlanDefaults defaults() {
    return new PlanDefaults(usual.present(), Plan.DEFAULT);
  }

  @PutMapping("/api/plans/defaults")
  PlanDefaults setDefault(@Valid @RequestBody DefaultRequest request) throws IOException {
    usual.set(request.plan());
    return defaults();
  }
}
