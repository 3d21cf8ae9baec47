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

  /** The same with one more thing that makes it doubtful at best. */
  public HealthReport doubting(Finding finding) {
    List<Finding> all = new ArrayList<>(findings);
    all.add(finding);
    boolean worse = verdict == Verdict.DAMAGED || verdict == Verdict.UNCHECKABLE;
    return new HealthReport(worse ? verdict : Verdict.DOUBTFUL, List.copyOf(all), inventory);
  }

  /** The heaviest finding in words, or an empty text. */
  public String reason() {
    return findings.stream()
        .max(java.util.Comparator.comparing(Finding::severity))
        .map(Finding::words)
        .orElse("");
  }
}
