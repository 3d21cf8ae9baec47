package dev.kavrin.server.comparison;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Unchanged;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.version.VersionFiles.Side;
import dev.kavrin.server.version.VersionFiles.Sides;
import jakarta.annotation.Nullable;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.DoubleConsumer;
import java.util.function.Function;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/**
 * Makes comparisons, one after the other and beside the calls that ask, and keeps them for good.
 */
@Service
class Comparisons {
  private static final Duration PATIENCE = Duration.ofMillis(1500);
  private static final Duration AT_HAND = Duration.ofMinutes(10);
  private static final int MOST_AT_HAND = 50;

  private final ReaderProcess reader;
  private final ComparisonRow.Repository kept;
  private final Disk disk;
  private final Cache<Wanted, Job> jobs =
      Caffeine.newBuilder().expireAfterAccess(AT_HAND).maximumSize(MOST_AT_HAND).build();
  private final ExecutorService worker =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread thread = new Thread(task, "comparisons");
            thread.setDaemon(true);
            return thread;
          });

  Comparisons(ReaderProcess reader, ComparisonRow.Repository kept, Disk disk) {
    this.reader = reader;
    this.kept = kept;
    this.disk = disk;
  }

  private record Wanted(List<Sides> sides, @Nullable Double tolerance) {}

  /** One that is being made, or was lately. */
  private static final class Job {
    private final FutureTask<Comparison> task;
    private final int pairs;
    private volatile double share;
    private volatile int pair;

    Job(int pairs, Function<Job, Comparison> making) {
      this.pairs = pairs;
      this.task = new FutureTask<>(() -> making.apply(this));
    }

    void onTheWay(double ofThisPair) {
      share = (pair + ofThisPair) / pairs;
    }
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
  Standing of(List<Sides> sides, @Nullable Double tolerance) {
    Wanted wanted = new Wanted(sides, tolerance);
    Job job =
        jobs.get(
            wanted,
            w -> {
              Job begun = new Job(sides.size(), j -> made(w, j));
              worker.execute(begun.task);
              return begun;
            });
    try {
      return new Standing(job.task.get(PATIENCE.toMillis(), TimeUnit.MILLISECONDS), 1);
    } catch (TimeoutException later) {
      return new Standing(null, job.share);
    } catch (CancellationException stopped) {
      throw ProblemException.conflict("comparison-stopped", "Comparing was stopped.");
    } catch (ExecutionException failed) {
      jobs.asMap().remove(wanted, job);
      throw failed.getCause() instanceof RuntimeException told
          ? told
          : new IllegalStateException(failed.getCause());
    } catch (InterruptedException stop) {
      Thread.currentThread().interrupt();
      return new Standing(null, job.share);
    }
  }

  /** Gives up making it, if it is being made; nothing of it is kept. */
  void stop(List<Sides> sides, @Nullable Double tolerance) {
    Wanted wanted = new Wanted(sides, tolerance);
    Job job = jobs.getIfPresent(wanted);
    if (job != null && job.task.cancel(true)) {
      jobs.asMap().remove(wanted, job);
    }
  }

  private Comparison made(Wanted wanted, Job job) {
    if (wanted.sides().size() == 1) {
      return one(wanted.sides().get(0), wanted.tolerance(), job);
    }
    Map<String, Comparison> byRole = new LinkedHashMap<>();
    for (Sides sides : wanted.sides()) {
      byRole.put(word(sides.role()), one(sides, wanted.tolerance(), job));
      job.pair++;
    }
    return Comparison.joined(byRole);
  }

  private static String word(@Nullable String role) {
    return role == null || role.equals("SETUP") ? "set-up" : role.toLowerCase(Locale.ROOT);
  }

  private Comparison one(Sides sides, @Nullable Double tolerance, Job job) {
    return tolerance != null
        ? read(sides.a(), sides.b(), tolerance, job::onTheWay)
        : kept.findByContentAAndContentB(sides.a().content(), sides.b().content())
            .filter(row -> row.madeBy == Comparison.VERSION)
            .map(row -> JsonMapper.shared().readValue(row.body, Comparison.class))
            .orElseGet(() -> keep(sides, read(sides.a(), sides.b(), null, job::onTheWay)));
  }

  private Comparison keep(Sides sides, Comparison comparison) {
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

  @PreDestroy
  void end() {
    worker.shutdownNow();
  }
}
