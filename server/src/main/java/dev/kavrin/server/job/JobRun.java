package dev.kavrin.server.job;

import java.util.UUID;

/** A job as seen by who does it. */
public interface JobRun {
  UUID id();

  /** Who asked for it. */
  String person();

  /** 1 at first, more after stops. */
  int attempt();

  boolean isCancelled();

  /**
   * Tells how far it is.
   *
   * @param share 0 to 1, negative where nobody can tell
   * @param words what is being done
   * @throws JobCancelledException it was cancelled
   */
  void at(double share, String words);
}
