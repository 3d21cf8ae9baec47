package dev.kavrin.server.transfer;

import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.server.notification.NotificationSettings;
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
public record TransferFile(
    String format,
    int version,
    @Nullable Instant made,
    @Nullable Plan usualPlan,
    @Nullable NotificationSettings telling,
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
      ProgramProfile program,
      Plan plan,
      Map<String, Plan> exceptions) {
    public CarriedProject {
      exceptions = exceptions == null ? Map.of() : Map.copyOf(exceptions);
    }
  }
}
