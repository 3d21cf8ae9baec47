package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.Collection;
import java.util.List;
import java.util.Optional;

/**
 * How long a program was seen writing one autosave, from the first to the last byte: the least it
 * holds a person up, since what it does before and after is not seen.
 *
 * @param time the middle one of all measured
 * @param files measured
 */
public record ProgramStall(Duration time, int files) {
  /** Bytes a second; a file written slower was not written in one go (own rule, no source). */
  private static final long SLOWEST = 2_000_000;

  private static final long ALWAYS_ONE_GO = 2_000;

  /**
   * One autosave.
   *
   * @param millis from its first to its last byte, null where that is not told
   */
  public record Write(long size, @Nullable Long millis) {}

  /** Of those written anew; one written over in place does not tell when it was begun. */
  public static Optional<ProgramStall> of(Collection<Write> wrote) {
    List<Long> times =
        wrote.stream()
            .filter(w -> w.size() > 0 && w.millis() != null)
            .filter(w -> w.millis() <= Math.max(ALWAYS_ONE_GO, w.size() * 1000 / SLOWEST))
            .map(Write::millis)
            .sorted()
            .toList();
    return times.isEmpty()
        ? Optional.empty()
        : Optional.of(
            new ProgramStall(Duration.ofMillis(times.get(times.size() / 2)), times.size()));
  }
}
