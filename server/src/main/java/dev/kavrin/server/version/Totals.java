package dev.kavrin.server.version;

import dev.kavrin.core.content.Finding;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.server.version.KnownVersions.KnownVersion;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;

/**
 * What all states of a document come to.
 *
 * @param newestWhole work in the newest whole state
 * @param newestElsewhere the same of those with a full copy besides the live file
 * @param newestStep the same of steps of a run
 * @param liveIsHeld true if Kavrin has a full copy of the live file's content
 * @param liveFault what is wrong with the live file, null if nothing is known to be
 * @param newestCopy when the work in the newest copy of Kavrin's was done
 * @param copies of Kavrin's
 * @param bytes they take, each once
 */
record Totals(
    List<KnownVersion> states,
    @Nullable Instant newestWhole,
    @Nullable Instant newestElsewhere,
    @Nullable Instant newestStep,
    boolean liveIsHeld,
    @Nullable String liveFault,
    @Nullable Instant newestCopy,
    int copies,
    long bytes) {

  static Totals of(List<KnownVersion> states) {
    Map<Long, CopyRow> ours = new HashMap<>();
    states.forEach(s -> s.ours().forEach(c -> ours.put(c.id, c)));
    List<KnownVersion> whole = states.stream().filter(KnownVersion::isTrustworthy).toList();
    return new Totals(
        states,
        newest(whole, h -> true),
        newest(whole, KnownVersion::isElsewhere),
        newest(whole, KnownVersion::isStep),
        states.stream().filter(KnownVersion::isLive).anyMatch(KnownVersion::isOurs),
        states.stream()
            .filter(s -> s.isLive() && s.verdict() == Verdict.DAMAGED)
            .findFirst()
            .map(Totals::fault)
            .orElse(null),
        newest(states, s -> !s.ours().isEmpty()),
        ours.size(),
        ours.values().stream().mapToLong(c -> c.size).sum());
  }

  private static String fault(KnownVersion damaged) {
    return Finding.heaviest(
            damaged.standing().stream().flatMap(m -> m.content().findings().stream()).toList())
        .map(Finding::words)
        .orElse("It is damaged.");
  }

  private static Instant newest(List<KnownVersion> states, Predicate<KnownVersion> of) {
    return states.stream()
        .filter(of)
        .map(KnownVersion::work)
        .max(Comparator.naturalOrder())
        .orElse(null);
  }
}
