package dev.kavrin.demo;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.RunCounts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Member;
import dev.kavrin.core.version.SetRule.Role;
import dev.kavrin.standin.HeatSetup;
import dev.kavrin.standin.HeatSolver;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/** The analyst's runs: the solver computes in the background while others work. */
final class HeatStudy {
  /** How the solver calls its files. */
  static final SetRule RULE =
      new SetRule(
          List.of(
              new Member(Role.SETUP, "", NamePattern.of("{stem}.setup.json")),
              new Member(Role.RESTART, "restart", NamePattern.of("{stem}-{step}.restart.h5")),
              new Member(Role.RESULT, "results", NamePattern.of("{stem}-{step}.result.h5"))));

  /** Every fifth step, the last five to go on from, each twentieth result for good. */
  static final Plan PLAN =
      Plan.every(Duration.ZERO, Counts.newest(10), Duration.ofMinutes(30))
          .onSteps(5, new RunCounts(5, 20, false));

  private final Path setup;
  private final SimClock clock;
  private HeatSolver solver;
  private Duration each;
  private Instant next;
  private long to;

  HeatStudy(Path setup, SimClock clock) throws IOException {
    this.setup = setup;
    this.clock = clock;
    HeatSolver.begin(setup, HeatSetup.brakeDisc(), clock);
  }

  /** Begins a run, or goes on from a step with the brake held at another share of its force. */
  void start(long from, long last, double share, Duration perStep) throws IOException {
    solver = new HeatSolver(setup, from, clock);
    if (from > 0) {
      solver.change(solver.setup().withStage(from + 1, share));
    }
    to = last;
    each = perStep;
    next = clock.instant().plus(perStep);
  }

  /** Computes what is due by the clock; closes in order when the last step is done. */
  void tick() throws IOException {
    while (solver != null && !clock.instant().isBefore(next)) {
      if (solver.step() == 80) {
        solver.change(solver.setup().withStage(81, 0.7));
      }
      solver.advance();
      next = next.plus(each);
      if (solver.step() >= to) {
        solver.close();
        solver = null;
      }
    }
  }
}
