package dev.kavrin.core.version;

import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import java.time.Instant;
import java.util.List;

/**
 * A copy that might be restored.
 *
 * @param state its state
 * @param path where it lies
 * @param reason health in a few words when not whole, else empty
 * @param work when the work in it was done, latest possible
 * @param guessed nothing tells for certain when that was
 * @param parts labels of the parts that can be read; empty if the kind has none
 * @param opened a person's word: true opened right, false wrong, null not tried
 */
public record Candidate(
    String state,
    String path,
    CopyKind kind,
    Verdict verdict,
    String reason,
    Instant work,
    boolean guessed,
    long size,
    List<String> parts,
    Boolean opened,
    boolean unsettled) {
  /** One of which the time is known, with nobody's word and no parts. */
  public static Candidate of(
      String state,
      String path,
      CopyKind kind,
      HealthReport health,
      Instant work,
      long size,
      boolean unsettled) {
    return new Candidate(
        state,
        path,
        kind,
        health.verdict(),
        health.reason(),
        work,
        false,
        size,
        List.of(),
        null,
        unsettled);
  }
}
