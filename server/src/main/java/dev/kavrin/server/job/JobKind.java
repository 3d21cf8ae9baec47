package dev.kavrin.server.job;

import dev.kavrin.core.lane.Lane;
import jakarta.annotation.Nullable;
import java.io.IOException;

/**
 * One kind of long work. It is asked for once, told as it goes, can be cancelled, and is taken up
 * again from its request after a stop.
 *
 * @param name in the records; never changes
 * @param request what is asked for; kept as JSON
 * @param again true if it is begun again after a stop, because what was done is found done; false
 *     if a person has to look first
 */
public record JobKind<R>(String name, Lane lane, Class<R> request, boolean again, Work<R> work) {
  /** Does it. */
  @FunctionalInterface
  public interface Work<R> {
    /**
     * @return what came of it, kept as JSON; null for nothing
     * @throws JobCancelledException it was cancelled on the way
     */
    @Nullable
    Object run(R request, JobRun job) throws IOException;
  }

  /** One that is begun again after a stop. */
  public static <R> JobKind<R> repeatable(String name, Lane lane, Class<R> request, Work<R> work) {
    return new JobKind<>(name, lane, request, true, work);
  }

  /** One that a person has to begin again. */
  public static <R> JobKind<R> once(String name, Lane lane, Class<R> request, Work<R> work) {
    return new JobKind<>(name, lane, request, false, work);
  }
}
