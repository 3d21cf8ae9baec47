package dev.kavrin.server.notification;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** One look at everything: what stands, and what of it is news. */
final class Round {
  private final Instant now;
  private final Standing standing;
  private final Set<String> seen = new HashSet<>();
  private final List<News> news = new ArrayList<>();

  Round(Instant now, Standing standing) {
    this.now = now;
    this.standing = standing;
  }

  /** What stands from look to look: since when, and what of it was told. */
  static final class Standing {
    private final Map<String, Instant> since = new HashMap<>();
    private final Set<String> told = new HashSet<>();
  }

  Instant now() {
    return now;
  }

  /** True for the first look at which something stands. */
  boolean begins(String what) {
    return begins(what, Duration.ZERO);
  }

  /** True for the first look at which something has stood for so long. */
  boolean begins(String what, Duration standsFor) {
    seen.add(what);
    Instant since = standing.since.computeIfAbsent(what, w -> now);
    return !now.isBefore(since.plus(standsFor)) && standing.told.add(what);
  }

  void tell(News one) {
    news.add(one);
  }

  /** What is to be told; what stands no longer is news again when it comes back. */
  List<News> end() {
    standing.since.keySet().retainAll(seen);
    standing.told.retainAll(seen);
    return Gathering.of(news);
  }
}
