package dev.kavrin.server.carry;

import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.trail.ProgramSheet;
import dev.kavrin.core.trail.SetRule;
import dev.kavrin.server.telling.Telling;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * Everything a person set, to be carried to another Kavrin; described by {@code
 * settings.schema.json}. Copies, journals and secrets are not part of it.
 *
 * @param usualPlan what new projects get
 */
public record Carried(
    String format,
    int version,
    @Nullable Instant made,
    @Nullable Plan usualPlan,
    @Nullable Telling telling,
    List<CarriedProject> projects) {
  static final String FORMAT = "kavrin-settings";

  /**
   * @param folder where it lay on the other machine; for people to read only
   * @param sets which files of a run belong together, null if documents are single files
   * @param exceptions plans of single documents, by their paths
   */
  public record CarriedProject(
      String name,
      @Nullable String folder,
      List<String> rule,
      @Nullable SetRule sets,
      ProgramSheet program,
      Plan plan,
      Map<String, Plan> exceptions) {
    public CarriedProject {
      exceptions = exceptions == null ? Map.of() : Map.copyOf(exceptions);
    }
  }
}
