package dev.kavrin.core.version;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;

/** Orders what survived, best first, and says why in words. */
public final class Candidates {
  private static final int MOST_NAMED = 3;

  private Candidates() {}

  /**
   * @param candidate the copy to take
   * @param words why it stands where it stands
   */
  public record Ranked(Candidate candidate, String words) {}

  /**
   * What survived, and which of it to take.
   *
   * @param shown those asked for, best first
   * @param further how many more there are
   * @param recommended the one to take; empty if none may be recommended
   */
  public record Survivors(List<Ranked> shown, int further, Optional<Candidate> recommended) {}

  /**
   * One entry a version, its best copy; a person's verdict first, then health, then work of which
   * the time is known, the newest first, then nearness. Time ranks and never leaves out: of all
   * there are one is recommended, however old the crash.
   *
   * @param asked which are shown besides the best
   * @param best so many are shown in any case
   */
  public static Survivors of(
      List<Candidate> all, Instant crash, Predicate<Candidate> asked, int best) {
    Map<String, Candidate> byVersion = new LinkedHashMap<>();
    Map<String, Integer> copies = new HashMap<>();
    for (Candidate c : all.stream().sorted(ORDER).toList()) {
      byVersion.putIfAbsent(c.state(), c);
      copies.merge(c.state(), 1, Integer::sum);
    }
    List<Candidate> ordered = byVersion.values().stream().sorted(ORDER).toList();
    Optional<Candidate> recommended =
        ordered.stream().filter(Candidates::recommendable).findFirst();
    List<Ranked> shown = new ArrayList<>();
    for (int i = 0; i < ordered.size(); i++) {
      Candidate c = ordered.get(i);
      if (i < best || asked.test(c)) {
        shown.add(new Ranked(c, words(c, crash, recommended.orElse(null), copies.get(c.state()))));
      }
    }
    return new Survivors(List.copyOf(shown), ordered.size() - shown.size(), recommended);
  }

  /** The one to take, if any may be recommended. */
  public static Optional<Candidate> recommended(List<Candidate> all) {
    return all.stream().filter(Candidates::recommendable).min(ORDER);
  }

  private static boolean recommendable(Candidate c) {
    return c.opened() != null ? c.opened() : c.verdict().trustworthy() && !c.unsettled();
  }

  private static final Comparator<Candidate> ORDER =
      Comparator.comparingInt(Candidates::trust)
          .thenComparing(Candidate::guessed)
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
      Candidate c, Instant crash, @Nullable Candidate recommended, int copies) {
    List<String> pieces = new ArrayList<>();
    pieces.add(c.reason().isEmpty() ? health(c) : health(c) + ": " + c.reason());
    if (c.guessed()) {
      pieces.add("when is a guess");
    }
    if (c.work().isAfter(crash)) {
      pieces.add(Words.age(Duration.between(crash, c.work())) + " after the crash");
    } else if (c.verdict() != Verdict.DAMAGED) {
      pieces.add(Words.age(Duration.between(c.work(), crash)) + " before the crash");
    }
    if (recommendable(c)
        && c.kind() == CopyKind.RESCUE
        && recommended != null
        && c.work().isBefore(recommended.work())) {
      pieces.add("older than the newest copy, so not the one to take first");
    }
    if (!c.parts().isEmpty()) {
      pieces.add(Words.count(c.parts().size(), "part"));
    }
    lacking(c, recommended).ifPresent(pieces::add);
    if (copies > 1) {
      pieces.add("the same in " + Words.count(copies - 1, "other copy"));
    }
    String text = String.join(" · ", pieces);
    return Character.toUpperCase(text.charAt(0)) + text.substring(1);
  }

  private static String health(Candidate c) {
    if (c.opened() != null) {
      return c.opened() ? "opens" : "does not open";
    }
    return c.unsettled() ? "copied while it was being written" : c.verdict().words();
  }

  private static Optional<String> lacking(Candidate c, @Nullable Candidate recommended) {
    List<String> lacks = new ArrayList<>(recommended == null ? List.of() : recommended.parts());
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
