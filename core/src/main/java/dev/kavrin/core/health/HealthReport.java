package dev.kavrin.core.health;

import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import java.util.ArrayList;
import java.util.List;

/** A verdict, what led to it, and what was found inside. */
public record HealthReport(Verdict verdict, List<Finding> findings, Inventory inventory) {
  public static HealthReport uncheckable(String why) {
    return new HealthReport(
        Verdict.UNCHECKABLE,
        List.of(
            new Finding(
                "could-not-be-checked", Finding.Severity.NOTE, -1, why, "Check it again later.")),
        Inventory.OPAQUE);
  }

  /** What it holds is not known, for a reason that may pass; it is to be asked again. */
  public static HealthReport notYet(String why) {
    return new HealthReport(
        Verdict.NOT_CHECKED,
        List.of(
            new Finding(
                "not-checked-yet", Finding.Severity.NOTE, -1, why, "It is checked again later.")),
        Inventory.OPAQUE);
  }

  /** The same with one more thing that makes it doubtful at best. */
  public HealthReport doubting(Finding finding) {
    List<Finding> all = new ArrayList<>(findings);
    all.add(finding);
    boolean worse = verdict.compareTo(Verdict.DOUBTFUL) > 0 || !isChecked();
    return new HealthReport(worse ? verdict : Verdict.DOUBTFUL, List.copyOf(all), inventory);
  }

  private boolean isChecked() {
    return verdict != Verdict.UNCHECKABLE && verdict != Verdict.NOT_CHECKED;
  }

  /** The heaviest finding in words, or an empty text. */
  public String reason() {
    return Finding.heaviest(findings).map(Finding::words).orElse("");
  }
}
