package dev.kavrin.server.comparison;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Unchanged;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.trail.StateFiles.Side;
import dev.kavrin.server.trail.StateFiles.Sides;
import jakarta.annotation.Nullable;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Function;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/**
 * Makes comparisons, one after the other and beside the calls that ask, and keeps them for good.
 */
@Service
class Comparisons {
  private static final Duration PATIENCE = Duration.ofMillis(1500);

  private final ReaderProcess reader;
  private final ComparisonRow.Repository kept;
  private final Disk disk;
  private final Map<Wanted, CompletableFuture<Comparison>> running = new ConcurrentHashMap<>();
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

  /**
   * What came of it; empty if it is still being made, and asking again later will tell.
   *
   * @param tolerance null for what the files tell apart themselves
   */
  Optional<Comparison> of(List<Sides> sides, @Nullable Double tolerance) {
    Wanted wanted = new Wanted(sides, tolerance);
    CompletableFuture<Comparison> job =
        running.computeIfAbsent(wanted, w -> CompletableFuture.supplyAsync(() -> made(w), worker));
    try {
      Comparison comparison = job.get(PATIENCE.toMillis(), TimeUnit.MILLISECONDS);
      running.remove(wanted, job);
      return Optional.of(comparison);
    } catch (TimeoutException later) {
      return Optional.empty();
    } catch (ExecutionException | CompletionException failed) {
      running.remove(wanted, job);
      throw failed.getCause() instanceof RuntimeException told
          ? told
          : new IllegalStateException(failed.getCause());
    } catch (InterruptedException stop) {
      Thread.currentThread().interrupt();
      return Optional.empty();
    }
  }

  private Comparison made(Wanted wanted) {
    if (wanted.sides().size() == 1) {
      return one(wanted.sides().get(0), wanted.tolerance());
    }
    Map<String, Comparison> byRole = new LinkedHashMap<>();
    for (Sides sides : wanted.sides()) {
      byRole.put(word(sides.role()), one(sides, wanted.tolerance()));
    }
    return Comparison.joined(byRole);
  }

  private static String word(@Nullable String role) {
    return role == null || role.equals("SETUP") ? "set-up" : role.toLowerCase(Locale.ROOT);
  }

  private Comparison one(Sides sides, @Nullable Double tolerance) {
    return tolerance != null
        ? read(sides.a(), sides.b(), tolerance)
        : kept.findByContentAAndContentB(sides.a().content(), sides.b().content())
            .filter(row -> row.madeBy == Comparison.VERSION)
            .map(row -> JsonMapper.shared().readValue(row.body, Comparison.class))
            .orElseGet(() -> keep(sides, read(sides.a(), sides.b(), null)));
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
  Comparison read(Side a, Side b, @Nullable Double tolerance) {
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
                      right -> reader.compare(left, a.name(), right, b.name(), tolerance)))
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
  void stop() {
    worker.shutdownNow();
  }
}
