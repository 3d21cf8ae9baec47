package dev.kavrin.server.comparison;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import com.github.benmanes.caffeine.cache.Expiry;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.Outcome;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Unchanged;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobRun;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.version.VersionFiles.Side;
import dev.kavrin.server.version.VersionFiles.Sides;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.DoubleConsumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/** Makes comparisons, beside the calls that ask, and keeps them for good. */
@Service
class Comparisons implements JobKinds {
  private static final Duration PATIENCE = Duration.ofMillis(1500);
  private static final Duration LONG = Duration.ofMinutes(1);
  private static final Duration AT_HAND = Duration.ofMinutes(10);
  private static final Duration UNREAD_AT_HAND = Duration.ofSeconds(20);
  private static final int MOST_AT_HAND = 50;

  private final ReaderProcess reader;
  private final ComparisonRow.Repository kept;
  private final Disk disk;
  private final JobService jobs;
  private final JobKind<Wanted> comparing =
      JobKind.repeatable("comparison", Lane.ASKED, Wanted.class, this::make);
  private final Cache<Wanted, UUID> asked =
      Caffeine.newBuilder().expireAfterAccess(AT_HAND).maximumSize(MOST_AT_HAND).build();
  private final Cache<Wanted, Comparison> made =
      Caffeine.newBuilder()
          .expireAfter(Expiry.<Wanted, Comparison>writing((wanted, c) -> holdsFor(c)))
          .maximumSize(MOST_AT_HAND)
          .build();

  Comparisons(ReaderProcess reader, ComparisonRow.Repository kept, Disk disk, JobService jobs) {
    this.reader = reader;
    this.kept = kept;
    this.disk = disk;
    this.jobs = jobs;
  }

  /** What a file leans on may yet be backed up, or come back: then more of it can be read. */
  private static boolean isWhole(Comparison comparison) {
    return comparison.count(Outcome.UNREADABLE) == 0;
  }

  private static Duration holdsFor(Comparison comparison) {
    return isWhole(comparison) ? AT_HAND : UNREAD_AT_HAND;
  }

  /** A comparison that is to be. */
  record Wanted(List<Sides> sides, @Nullable Double tolerance) {
    String key() {
      return sides.stream()
              .map(s -> s.a().content() + " " + s.b().content())
              .collect(Collectors.joining(" "))
          + (tolerance == null ? "" : " " + tolerance);
    }
  }

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(comparing);
  }

  /**
   * How it stands.
   *
   * @param made null while it is being made; asking again later will tell
   * @param share that is done, 0 to 1
   */
  record Standing(@Nullable Comparison made, double share) {}

  /**
   * Begins if need be and waits a little.
   *
   * @param tolerance null for what the files tell apart themselves
   * @throws ProblemException it cannot be made, or was stopped
   */
  Standing of(List<Sides> sides, @Nullable Double tolerance, String who) {
    Wanted wanted = new Wanted(sides, tolerance);
    Comparison ready = made.getIfPresent(wanted);
    if (ready == null && isKept(wanted)) {
      ready = make(wanted, share -> {});
    }
    return ready == null ? begun(wanted, who) : new Standing(ready, 1);
  }

  /**
   * The same for whoever can do nothing with half an answer, and waits longer for it.
   *
   * @throws ProblemException it is not made by then
   */
  Comparison whole(List<Sides> sides, @Nullable Double tolerance, String who) {
    Instant until = Instant.now().plus(LONG);
    Standing standing = of(sides, tolerance, who);
    while (standing.made() == null && Instant.now().isBefore(until)) {
      standing = of(sides, tolerance, who);
    }
    if (standing.made() == null) {
      throw ProblemException.conflict(
          "still-comparing", "It is still being compared. Ask again in a moment.");
    }
    return standing.made();
  }

  private Standing begun(Wanted wanted, String who) {
    UUID id = asked.get(wanted, w -> jobs.begin(comparing, w.key(), w, who).id());
    Job job = jobs.await(id, PATIENCE);
    Comparison ready = made.getIfPresent(wanted);
    if (ready != null) {
      return new Standing(ready, 1);
    }
    if (job.state() == Job.State.WAITING || job.state() == Job.State.RUNNING) {
      return new Standing(null, job.progress() == null ? 0 : job.progress());
    }
    asked.asMap().remove(wanted, id);
    if (job.state() == Job.State.DONE) {
      return begun(wanted, who);
    }
    if (job.problem() != null) {
      throw ProblemException.told(
          job.problem().status(), job.problem().type(), job.problem().detail());
    }
    throw ProblemException.conflict("comparison-stopped", "Comparing was stopped.");
  }

  private boolean isKept(Wanted wanted) {
    return wanted.tolerance() == null
        && wanted.sides().stream()
            .allMatch(
                s ->
                    kept.findByContentAAndContentB(s.a().content(), s.b().content())
                        .filter(row -> row.madeBy == Comparison.VERSION)
                        .isPresent());
  }

  /** Gives up making it, if it is being made; nothing of it is kept. */
  void stop(List<Sides> sides, @Nullable Double tolerance) {
    UUID id = asked.getIfPresent(new Wanted(sides, tolerance));
    if (id != null) {
      jobs.cancel(id);
    }
  }

  @Nullable
  private Object make(Wanted wanted, JobRun job) {
    made.put(wanted, make(wanted, share -> job.at(share, "Comparing")));
    return null;
  }

  private Comparison make(Wanted wanted, DoubleConsumer onTheWay) {
    int pairs = wanted.sides().size();
    if (pairs == 1) {
      return one(wanted.sides().get(0), wanted.tolerance(), onTheWay);
    }
    Map<String, Comparison> byRole = new LinkedHashMap<>();
    for (Sides sides : wanted.sides()) {
      int before = byRole.size();
      byRole.put(
          sides.isSetup() ? "set-up" : sides.what(),
          one(sides, wanted.tolerance(), share -> onTheWay.accept((before + share) / pairs)));
    }
    return Comparison.joined(byRole);
  }

  private Comparison one(Sides sides, @Nullable Double tolerance, DoubleConsumer onTheWay) {
    return tolerance != null
        ? read(sides.a(), sides.b(), tolerance, onTheWay)
        : kept.findByContentAAndContentB(sides.a().content(), sides.b().content())
            .filter(row -> row.madeBy == Comparison.VERSION)
            .map(row -> JsonMapper.shared().readValue(row.body, Comparison.class))
            .orElseGet(() -> keep(sides, read(sides.a(), sides.b(), null, onTheWay)));
  }

  private Comparison keep(Sides sides, Comparison comparison) {
    if (!isWhole(comparison)) {
      return comparison;
    }
    ComparisonRow row =
        kept.findByContentAAndContentB(sides.a().content(), sides.b().content())
            .orElseGet(ComparisonRow::new);
    row.contentA = sides.a().content();
    row.contentB = sides.b().content();
    row.body = JsonMapper.shared().writeValueAsString(comparison);
    row.madeBy = Comparison.VERSION;
    kept.save(row);
    return comparison;
  }

  /** A comparison is kept for good, so it must be one of these contents and no other. */
  Comparison read(Side a, Side b, @Nullable Double tolerance, DoubleConsumer onTheWay) {
    try {
      return Unchanged.read(
              disk,
              a.file(),
              ContentId.parse(a.content()),
              left ->
                  Unchanged.read(
                      disk,
                      b.file(),
                      ContentId.parse(b.content()),
                      right ->
                          reader.compare(left, a.name(), right, b.name(), tolerance, onTheWay)))
          .flatMap(Function.identity())
          .orElseThrow(
              () ->
                  ProblemException.conflict(
                      "written-meanwhile",
                      "A file was written while it was read. Compare again in a moment."));
    } catch (IOException unreadable) {
      throw ProblemException.away(
          "A copy cannot be read: " + unreadable.getMessage() + ". Nothing was touched.",
          unreadable);
    }
  }
}
