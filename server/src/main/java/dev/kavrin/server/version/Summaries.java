package dev.kavrin.server.version;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import dev.kavrin.core.backup.RunStatus;
import dev.kavrin.core.plan.Exposure;
import dev.kavrin.core.plan.Growth;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderRole;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.KnownVersions.KnownVersion;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
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
  private static final int STATES_AT_HAND = 100_000;

  private final Engine engine;
  private final KnownVersions states;
  private final VersionRows.Copies copies;
  private final InstantSource clock;
  private final Cache<Long, Totals> totals =
      Caffeine.newBuilder()
          .maximumWeight(STATES_AT_HAND)
          .weigher((Long document, Totals t) -> t.states().size() + 1)
          .build();

  /** Bytes of the last day by folder: a minute more or less makes no difference to it. */
  private final Cache<Long, Long> written =
      Caffeine.newBuilder().expireAfterWrite(Duration.ofMinutes(1)).build();

  Summaries(Engine engine, KnownVersions states, VersionRows.Copies copies, InstantSource clock) {
    this.engine = engine;
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
      VersionsView.Exposure exposure,
      @Nullable VersionsView.Live live,
      @Nullable Instant newestCopy,
      int states,
      int copies,
      long bytes) {}

  /**
   * By document, in a handful of queries however many there are.
   *
   * @param documents by project
   */
  @Transactional(readOnly = true)
  public Map<UUID, Summary> of(
      List<ProjectService.Project> projects, Map<UUID, List<Document>> documents) {
    Map<Long, List<KnownVersion>> held =
        states.of(documents.values().stream().flatMap(List::stream).map(Document::key).toList());
    Map<UUID, Summary> all = new HashMap<>();
    for (ProjectService.Project project : projects) {
      all.putAll(of(project, documents.getOrDefault(project.id(), List.of()), held));
    }
    return all;
  }

  /**
   * Of one project's, from states that are at hand.
   *
   * @param held by document key
   */
  Map<UUID, Summary> of(
      ProjectService.Project project,
      List<Document> documents,
      Map<Long, List<KnownVersion>> held) {
    Optional<Kept> kept = engine.project(project.id());
    Map<UUID, Watch.Status> watched =
        kept.map(k -> k.watch().status()).orElse(List.of()).stream()
            .collect(Collectors.toMap(Watch.Status::document, s -> s));
    Map<UUID, Summary> all = new HashMap<>();
    for (Document document : documents) {
      long accepted = project.planFor(document.id()).accepted().toSeconds();
      all.put(
          document.id(),
          summary(
              totals(document, held.getOrDefault(document.key(), List.of())),
              watched.get(document.id()),
              kept.map(k -> k.open(document.id())).orElse(Kept.OpenNow.UNKNOWN),
              accepted));
    }
    return all;
  }

  /** When a recovery folder is full if it fills as in the last day; empty if it does not. */
  @Transactional(readOnly = true)
  public Optional<Instant> fullAt(Folder place, long free) {
    Duration day = Duration.ofDays(1);
    Instant now = clock.instant();
    return place.role() == FolderRole.RECOVERY
        ? new Growth(written.get(place.key(), key -> copies.bytesSince(key, now.minus(day))), day)
            .usedUp(free, now)
        : Optional.empty();
  }

  private Totals totals(Document document, List<KnownVersion> held) {
    Totals before = totals.getIfPresent(document.key());
    if (before != null && before.states() == held) {
      return before;
    }
    Totals now = Totals.of(held);
    totals.put(document.key(), now);
    return now;
  }

  private Summary summary(Totals held, Watch.Status status, Kept.OpenNow open, long accepted) {
    return new Summary(
        exposure(held, status, open, accepted),
        live(status, held.liveFault()),
        held.newestCopy(),
        held.states().size(),
        held.copies(),
        held.bytes());
  }

  private VersionsView.Exposure exposure(
      Totals held, Watch.Status status, Kept.OpenNow open, long accepted) {
    Instant now = clock.instant();
    RunStatus run = status == null ? null : status.run();
    Exposure e =
        run == null
            ? Exposure.now(
                now,
                held.newestWhole(),
                held.newestElsewhere(),
                held.liveIsHeld(),
                open.mayHoldWork())
            : Exposure.now(
                now,
                run.written(),
                held.newestStep(),
                held.liveIsHeld() && run.isHeld(),
                open.mayHoldWork());
    return new VersionsView.Exposure(
        now,
        e.programDies() == null ? null : now.minus(e.programDies()),
        e.fileLost() == null ? null : now.minus(e.fileLost()),
        e.quiet(),
        open,
        accepted);
  }

  @Nullable
  private static VersionsView.Live live(@Nullable Watch.Status s, @Nullable String fault) {
    return s == null
        ? null
        : new VersionsView.Live(
            s.present(),
            s.everSaved(),
            s.modified(),
            s.size(),
            s.pendingSince(),
            s.heldBy(),
            s.heldSince(),
            s.awaited(),
            s.problem() == null && s.present() ? fault : s.problem(),
            s.run());
  }
}
