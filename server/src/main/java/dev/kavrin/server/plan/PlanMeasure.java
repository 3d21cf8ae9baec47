package dev.kavrin.server.plan;

import dev.kavrin.core.backup.RunMeasure;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.plan.OwnWrites;
import dev.kavrin.core.plan.PlanInputs;
import dev.kavrin.core.plan.ProgramStall;
import dev.kavrin.core.plan.RunInputs;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.Kept;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;

/** Measures what plans are weighed with, from what stands and what was copied. */
final class PlanMeasure {
  private PlanMeasure() {}

  /** Those a plan is for: one alone, or with null all that have none of their own. */
  static List<UUID> documents(Kept kept, @Nullable UUID alone) {
    return alone != null
        ? List.of(alone)
        : kept.folder().history().documents(kept.project().id()).stream()
            .filter(d -> !d.linked() && !kept.project().exceptions().containsKey(d.id()))
            .map(JournalEntry.DocumentSet::id)
            .toList();
  }

  /**
   * What plans of these documents are weighed with.
   *
   * @param own how far apart the program's own writes lie, null if nothing tells
   * @param stall what its autosaves hold a person up, null if none was measured
   */
  static PlanInputs inputs(
      Kept kept, List<UUID> documents, @Nullable OwnWrites own, @Nullable ProgramStall stall) {
    List<Watch.Status> all =
        kept.watch().status().stream().filter(s -> documents.contains(s.document())).toList();
    long size =
        Stream.concat(
                all.stream().map(Watch.Status::size),
                all.stream()
                    .flatMap(
                        s ->
                            new KeepInputs(kept.folder().history(), s.document())
                                .protecting().stream())
                    .map(c -> c.content().length()))
            .max(Long::compare)
            .orElse(0L);
    List<Long> times =
        kept.folder().history().allCaptures().stream()
            .filter(c -> documents.contains(c.document()))
            .map(BackupRecord::millis)
            .filter(m -> m > 0)
            .sorted()
            .toList();
    Duration copyTime = times.isEmpty() ? null : Duration.ofMillis(times.get(times.size() / 2));
    return new PlanInputs(
        size,
        own,
        stall,
        copyTime,
        Math.max(1, all.size()),
        kept.project().recoveries().size(),
        rates(kept),
        kept.older().share(kept.project()));
  }

  /** What is known of those that are runs; empty if the project has none. */
  static Optional<RunInputs> runs(Kept kept, List<UUID> documents) {
    if (kept.project().sets() == null) {
      return Optional.empty();
    }
    List<UUID> runs =
        kept.folder().history().documents(kept.project().id()).stream()
            .filter(d -> documents.contains(d.id()) && kept.project().isRun(d.path()))
            .map(JournalEntry.DocumentSet::id)
            .toList();
    int places = kept.project().recoveries().size();
    return Optional.of(RunMeasure.of(kept.folder().history(), runs, places));
  }

  private static Map<String, Long> rates(Kept kept) {
    Map<String, Long> rates = new LinkedHashMap<>();
    for (BackupFolder folder : kept.folders().all()) {
      kept.folders().rate(folder).ifPresent(r -> rates.put(folder.root().toString(), r));
    }
    return rates;
  }
}
