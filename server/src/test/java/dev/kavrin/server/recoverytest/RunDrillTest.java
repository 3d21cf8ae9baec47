package dev.kavrin.server.recoverytest;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Proof;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.RunCounts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.recoverytest.FailureMode;
import dev.kavrin.core.recoverytest.RunRecoveryTest;
import dev.kavrin.core.recoverytest.RunTestCase;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Member;
import dev.kavrin.core.version.SetRule.Role;
import dev.kavrin.standin.ActingSolver;
import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Of a run, too, comes back what is predicted, and no more is lost than the plan promises. */
class RunDrillTest {
  private static final Duration STEP = Duration.ofMinutes(2);
  private static final SetRule RULE =
      new SetRule(
          List.of(
              new Member(Role.SETUP, "", NamePattern.of("{stem}.setup.json")),
              new Member(Role.RESTART, "restart", NamePattern.of("{stem}-{step}.restart.h5")),
              new Member(Role.RESULT, "results", NamePattern.of("{stem}-{step}.result.h5"))));

  @TempDir Path folder;

  private Path field(String name, long step, double value) throws IOException {
    Path file = folder.resolve(name);
    try (WritableHdfFile written = HdfFile.write(file)) {
      written.putAttribute("step", step);
      written.putDataset("temperature", new double[] {value, 2 * value});
    }
    return file;
  }

  private Proof drill(Plan plan, FailureMode way) throws IOException {
    List<RunTestCase.Played> steps = new ArrayList<>();
    for (long step = 1; step <= 7; step++) {
      Map<String, Path> files =
          Map.of(
              "restart/disc-%04d.restart.h5".formatted(step), field("a" + step, step, 300 + step),
              "results/disc-%04d.result.h5".formatted(step), field("b" + step, step, 400 + step));
      steps.add(new RunTestCase.Played(step, files));
    }
    Path setup = Files.writeString(folder.resolve("disc.setup.json"), "{\"flux\":1}");
    ProgramProfile sheet = new ProgramProfile("Tarn Solver", "solver", null, null, List.of(), null);
    ProjectRecord project =
        ProjectRecord.of(
                UUID.randomUUID(),
                "Heat",
                "heat",
                "/work",
                List.of(),
                sheet,
                plan,
                List.of("/keep"),
                "UTC")
            .joining(List.of(), RULE);
    RealDisk disk = new RealDisk();
    RunTestCase drill =
        new RunTestCase(
            project, UUID.randomUUID(), "heat/disc.setup.json", setup, steps, STEP, way);
    return new RunRecoveryTest(
            disk, new Publisher(disk, "node"), new HealthCheck(disk), ActingSolver::new)
        .of(
            drill,
            Files.createTempDirectory(folder, "scratch"),
            Instant.parse("2031-03-03T09:00:00Z"),
            (truth, back) -> Files.mismatch(truth, back) < 0 ? 0 : 1);
  }

  private static Plan steps(int every) {
    return Plan.every(Duration.ZERO, Counts.newest(3), Duration.ofMinutes(15))
        .onSteps(every, new RunCounts(3, every, false));
  }

  @ParameterizedTest
  @EnumSource(value = FailureMode.class, names = "MID_AUTOSAVE", mode = EnumSource.Mode.EXCLUDE)
  void whatIsLostIsPredictedAndWithinThePromise(FailureMode way) throws IOException {
    Plan byTime = Plan.every(Duration.ofMinutes(5), Counts.newest(3), Duration.ofMinutes(15));
    for (Plan plan : List.of(steps(1), steps(2), steps(3), byTime)) {
      Proof proof = drill(plan, way);
      assertThat(proof.actual()).as(plan + " " + proof).isNotNull();
      assertThat(proof.actual().minus(proof.predicted()).abs())
          .as(plan + " " + proof)
          .isLessThanOrEqualTo(Duration.ofSeconds(1));
      assertThat(proof.actual()).as(plan + " " + proof).isLessThanOrEqualTo(proof.promised());
      assertThat(proof.held()).as(plan + " " + proof).isTrue();
      boolean newest = proof.actual().compareTo(STEP) < 0;
      assertThat(proof.parts() == 0).as(plan + " " + proof).isEqualTo(newest);
    }
  }
}
