package dev.kavrin.core.version;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Words;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Orders what survived, best first, and says why in words. */
public final class Candidates {
  private static final int MOST_NAMED = 3;

  private Candidates() {}

  /**
   * @param candidate the copy to take
   * @param words why it stands where it stands
   */
  public record Ranked(Candidate candidate, String words) {}

  /** One entry a state, its best copy; a person's verdict first, then health, work, nearness. */
  public static List<Ranked> rank(List<Candidate> all, Instant crash) {
    Map<String, Candidate> best = new LinkedHashMap<>();
    all.stream().sorted(ORDER).forEach(c -> best.putIfAbsent(c.state(), c));
    List<Candidate> ordered = best.values().stream().sorted(ORDER).toList();
    Instant newestWhole =
        ordered.stream()
            .filter(Candidates::recommendable)
            .map(Candidate::work)
            .max(Comparator.naturalOrder())
            .orElse(null);
    List<String> fullest =
        ordered.stream()
            .filter(Candidates::recommendable)
            .findFirst()
            .map(Candidate::parts)
            .orElse(List.of());
    List<Ranked> ranked = new ArrayList<>();
    for (Candidate c : ordered) {
      ranked.add(new Ranked(c, words(c, crash, newestWhole, fullest, all)));
    }
    return ranked;
  }

  /** The one to take, if any may be recommended. */
  public static Optional<Candidate> recommended(List<Ranked> ranked) {
    return ranked.stream().map(Ranked::candidate).filter(Candidates::recommendable).findFirst();
  }

  private static boolean recommendable(Candidate c) {
    return c.opened() != null ? c.opened() : c.verdict().trustworthy() && !c.unsettled();
  }

  private static final Comparator<Candidate> ORDER =
      Comparator.comparingInt(Candidates::trust)
          .thenComparing(Comparator.comparing(Candidate::work).reversed())
          .thenComparing(Candidate::kind)
          .thenComparing(Candidate::path);

  private static int trust(Candidate c) {
    if (c.opened() != null) {
      return c.opened() ? 0 : 9;
    }
    if (c.unsettled()) {
      return 1 + Verdict.DOUBTFUL.ordinal();
    }
    return 1 + c.verdict().ordinal();
  }

  private static String words(
      Candidate c, Instant crash, Instant newestWhole, List<String> fullest, List<Candidate> all) {
    List<String> pieces = new ArrayList<>();
    pieces.add(c.reason().isEmpty() ? health(c) : health(c) + ": " + c.reason());
    if (c.work().isAfter(crash)) {
      pieces.add(Words.age(Duration.between(crash, c.work())) + " after the crash");
    } else if (c.verdict() != Verdict.DAMAGED) {
      pieces.add(Words.age(Duration.between(c.work(), crash)) + " before the crash");
    }
    if (recommendable(c)
        && c.kind() == CopyKind.RESCUE
        && newestWhole != null
        && c.work().isBefore(newestWhole)) {
      pieces.add("older than the newest copy, so not the one to take first");
    }
    if (!c.parts().isEmpty()) {
      pieces.add(Words.count(c.parts().size(), "part"));
    }
    lacking(c, fullest).ifPresent(pieces::add);
    long others = all.stream().filter(o -> o.state().equals(c.state())).count() - 1;
    if (others > 0) {
      pieces.add("the same in " + Words.count(others, "other place"));
    }
    String text = String.join(" · ", pieces);
    return Character.toUpperCase(text.charAt(0)) + text.substring(1);
  }

  private static String health(Candidate c) {
    if (c.opened() != null) {
      return c.opened() ? "opened right" : "opened wrong";
    }
    return c.unsettled() ? "copied while it was being written" : c.verdict().words();
  }

  private static Optional<String> lacking(Candidate c, List<String> fullest) {
    List<String> lacks = new ArrayList<>(fullest);
    lacks.removeAll(c.parts());
    if (lacks.isEmpty() || c.parts().isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        "lacks "
            + (lacks.size() <= MOST_NAMED
                ? String.join(", ", lacks)
                : Words.count(lacks.size(), "part") + " of the first"));
  }
}
