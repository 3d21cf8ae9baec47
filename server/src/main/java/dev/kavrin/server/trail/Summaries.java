package dev.kavrin.server.trail;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.plan.Exposure;
import dev.kavrin.core.plan.Growth;
import dev.kavrin.core.store.Watch;
import dev.kavrin.core.trail.CopyKind;
import dev.kavrin.core.units.Moments;
import dev.kavrin.server.capture.Engine;
import dev.kavrin.server.capture.Kept;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** How documents stand, many at once, without putting their trails together. */
@Service
public class Summaries {
  private final Engine engine;
  private final ReadContents read;
  private final TrailRows.States states;
  private final TrailRows.Copies copies;
  private final InstantSource clock;

  Summaries(
      Engine engine,
      ReadContents read,
      TrailRows.States states,
      TrailRows.Copies copies,
      InstantSource clock) {
    this.engine = engine;
    this.read = read;
    this.states = states;
    this.copies = copies;
    this.clock = clock;
  }

  /**
   * @param live null while nobody watches it
   * @param newestCopy when the work in the newest copy of Kavrin's was done
   * @param states that stand anywhere
   * @param copies of Kavrin's
   * @param bytes they take
   */
  public record Summary(
      TrailView.Exposure exposure,
      @Nullable TrailView.Live live,
      @Nullable Instant newestCopy,
      int states,
      int copies,
      long bytes) {}

  /** A state with what stands of it. */
  private record Held(StateRow state, ReadContents.Facts content, List<CopyRow> copies) {
    boolean trustworthy() {
      return Verdict.valueOf(content.verdict()).trustworthy();
    }

    boolean isLive() {
      return copies.stream().anyMatch(c -> c.sourceKind.equals(CopyKind.LIVE.name()));
    }

    boolean isElsewhere() {
      return copies.stream().anyMatch(c -> !c.sourceKind.equals(CopyKind.LIVE.name()));
    }

    List<CopyRow> ours() {
      return copies.stream().filter(c -> CopyKind.valueOf(c.sourceKind).isOurs()).toList();
    }
  }

  /** By document, in three queries however many there are. */
  @Transactional(readOnly = true)
  public Map<UUID, Summary> of(ProjectService.Project project, List<Document> documents) {
    List<Long> keys = documents.stream().map(Document::key).toList();
    Map<Long, List<CopyRow>> byState =
        copies.findByDocumentIdInAndGoneIsNull(keys).stream()
            .collect(Collectors.groupingBy(c -> c.stateId));
    Map<Long, ReadContents.Facts> facts =
        read.facts(
            byState.values().stream()
                .flatMap(List::stream)
                .map(c -> c.contentId)
                .distinct()
                .toList());
    Map<Long, List<Held>> byDocument = new HashMap<>();
    for (StateRow state : states.findByDocumentIdIn(keys)) {
      List<CopyRow> held = byState.getOrDefault(state.id, List.of());
      if (!held.isEmpty()) {
        byDocument
            .computeIfAbsent(state.documentId, k -> new ArrayList<>())
            .add(new Held(state, facts.get(held.get(0).contentId), held));
      }
    }
    Optional<Kept> kept = engine.project(project.id());
    boolean runs = kept.filter(k -> k.incidents().programRuns(k.project())).isPresent();
    Map<UUID, Watch.Status> watched =
        kept.map(k -> k.watch().status()).orElse(List.of()).stream()
            .collect(Collectors.toMap(Watch.Status::document, s -> s));
    Map<UUID, Summary> all = new HashMap<>();
    for (Document document : documents) {
      List<Held> held = byDocument.getOrDefault(document.key(), List.of());
      long accepted = project.planFor(document.id()).accepted().toSeconds();
      all.put(document.id(), summary(held, watched.get(document.id()), runs, accepted));
    }
    return all;
  }

  /** How fast a place was filled in the last day. */
  @Transactional(readOnly = true)
  public Growth growth(long place) {
    Duration day = Duration.ofDays(1);
    return new Growth(copies.bytesSince(place, clock.instant().minus(day)), day);
  }

  private Summary summary(List<Held> held, Watch.Status status, boolean runs, long accepted) {
    List<CopyRow> ours = held.stream().flatMap(h -> h.ours().stream()).toList();
    return new Summary(
        exposure(held, runs, accepted),
        live(status),
        ours.stream()
            .map(c -> Moments.ofNanos(c.modified))
            .max(Comparator.naturalOrder())
            .orElse(null),
        held.size(),
        ours.size(),
        held.stream().mapToLong(h -> h.content().length() * h.ours().size()).sum());
  }

  private TrailView.Exposure exposure(List<Held> held, boolean runs, long accepted) {
    Instant now = clock.instant();
    Instant onDisk = newest(held.stream().filter(Held::trustworthy).toList());
    Instant elsewhere =
        newest(held.stream().filter(Held::trustworthy).filter(Held::isElsewhere).toList());
    boolean liveIsHeld = held.stream().filter(Held::isLive).anyMatch(h -> !h.ours().isEmpty());
    Exposure e = Exposure.now(now, onDisk, elsewhere, liveIsHeld, runs);
    return new TrailView.Exposure(
        e.programDies() == null ? null : now.minus(e.programDies()),
        e.fileLost() == null ? null : now.minus(e.fileLost()),
        e.quiet(),
        runs,
        accepted);
  }

  private static Instant newest(List<Held> held) {
    return held.stream()
        .map(h -> Moments.ofNanos(h.state().workHi))
        .max(Comparator.naturalOrder())
        .orElse(null);
  }

  @Nullable
  private static TrailView.Live live(@Nullable Watch.Status s) {
    return s == null
        ? null
        : new TrailView.Live(
            s.present(),
            s.modified(),
            s.size(),
            s.pendingSince(),
            s.heldBy(),
            s.heldSince(),
            s.awaited(),
            s.problem());
  }
}
