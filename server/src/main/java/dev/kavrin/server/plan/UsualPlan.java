package dev.kavrin.server.plan;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.server.platform.LastLine;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import org.springframework.stereotype.Component;

/** The plan that new projects get. */
@Component
public class UsualPlan {
  private final LastLine<Plan> file;

  UsualPlan(Settings settings, Disk disk) {
    this.file =
        new LastLine<>(
            disk, settings.data().resolve("default-plan.jsonl"), Plan.class, Plan.DEFAULT);
  }

  public Plan present() {
    return file.present();
  }

  public void set(Plan plan) throws IOException {
    file.set(plan);
  }
}
