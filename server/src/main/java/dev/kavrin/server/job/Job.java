package dev.kavrin.server.job;

import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.UUID;
import tools.jackson.databind.JsonNode;

/**
 * A job as a page sees it.
 *
 * @param key what it is about; two open jobs of a kind never have one key
 * @param progress 0 to 1, null where nobody can tell
 * @param words what is being done
 * @param result what came of it, null before it is done
 * @param problem why it failed, null if it did not
 */
public record Job(
    UUID id,
    String kind,
    String key,
    State state,
    String person,
    @Nullable Double progress,
    @Nullable String words,
    @Nullable JsonNode result,
    @Nullable Problem problem,
    boolean cancelled,
    int attempt,
    Instant created,
    @Nullable Instant begun,
    @Nullable Instant ended) {

  /** How far it is. */
  public enum State {
    WAITING,
    RUNNING,
    DONE,
    FAILED,
    CANCELLED;

    boolean isOpen() {
      return this == WAITING || this == RUNNING;
    }
  }

  /** As the answer to a call that failed at once would have told it (RFC 9457). */
  public record Problem(int status, String type, String title, String detail) {}
}
