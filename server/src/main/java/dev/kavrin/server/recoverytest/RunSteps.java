package dev.kavrin.server.recoverytest;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.recoverytest.RunTestCase.Played;
import dev.kavrin.core.restore.StepLayout.Piece;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView;
import dev.kavrin.server.version.VersionsView.StateView;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** The steps of a run that a rehearsal plays again. */
@Component
class RunSteps {
  private static final int STEPS = 9;

  private final VersionService trail;
  private final VersionFiles files;

  RunSteps(VersionService trail, VersionFiles files) {
    this.trail = trail;
    this.files = files;
  }

  /**
   * A whole step with reachable files.
   *
   * @param written when the last of its files was
   */
  record Step(Played played, Instant written, long bytes) {}

  static long bytes(List<Step> steps) {
    return steps.stream().mapToLong(Step::bytes).sum();
  }

  /** Computing time of one step, as the steps themselves tell. */
  static Duration aStep(List<Step> steps) {
    Step first = steps.get(0);
    Step last = steps.get(steps.size() - 1);
    Duration took = Duration.between(first.written(), last.written());
    return took.dividedBy(Math.max(1, last.played().step() - first.played().step()));
  }

  /**
   * The newest whole steps of the newest run, oldest first.
   *
   * @throws ProblemException there are not two
   */
  List<Step> newest(UUID document) {
    List<Step> steps = new ArrayList<>();
    Long run = null;
    for (StateView state : trail.whole(document).states()) {
      boolean whole =
          state.step() != null
              && state.step().lacks().isEmpty()
              && Verdict.valueOf(state.verdict()).trustworthy()
              && state.step().members().stream().allMatch(VersionsView.StepFile::held);
      if (whole && steps.size() < STEPS && (run == null || run == state.step().run())) {
        run = state.step().run();
        steps.add(step(document, state));
      }
    }
    if (steps.size() < 2) {
      throw ProblemException.badInput(
          "too-few-states",
          "A recovery test plays earlier steps of this run again and needs two whole ones; there are "
              + steps.size()
              + ". Let it compute on, and try again.");
    }
    Collections.reverse(steps);
    return steps;
  }

  private Step step(UUID document, StateView state) {
    Map<String, Path> held = new HashMap<>();
    long bytes = 0;
    for (Piece piece : files.pieces(document, state.id())) {
      boolean isSetup =
          state.step().members().stream()
              .anyMatch(m -> m.role().equals("SETUP") && m.path().equals(piece.relative()));
      if (!isSetup) {
        held.put(piece.relative(), piece.source());
        bytes += piece.content().length();
      }
    }
    return new Step(new Played(state.step().step(), held), state.workTo(), bytes);
  }
}
