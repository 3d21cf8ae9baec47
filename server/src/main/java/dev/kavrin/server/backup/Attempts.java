package dev.kavrin.server.backup;

import dev.kavrin.core.lane.Lanes.Work;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * What is tried again and again: a failure is logged once, until it changes or passes, and ends
 * nothing but itself.
 */
final class Attempts {
  private static final Logger LOG = LoggerFactory.getLogger(Attempts.class);

  private final Map<String, String> told = new ConcurrentHashMap<>();

  /**
   * @param what in words, the same each time
   */
  void run(String what, Work attempt) {
    try {
      attempt.run();
      if (told.remove(what) != null) {
        LOG.info("{}: well again", what);
      }
    } catch (IOException failed) {
      tell(what, failed, null);
    } catch (RuntimeException | Error unexpected) {
      tell(what, unexpected, unexpected);
    }
  }

  /** What failed when it was last tried, with why, in words. */
  List<String> failing() {
    return told.entrySet().stream().map(t -> t.getKey() + ": " + t.getValue()).sorted().toList();
  }

  private void tell(String what, Throwable failed, @Nullable Throwable trace) {
    String words = String.valueOf(failed.getMessage());
    if (!words.equals(told.put(what, words))) {
      LOG.warn("{}: {}", what, words, trace);
    }
  }
}
