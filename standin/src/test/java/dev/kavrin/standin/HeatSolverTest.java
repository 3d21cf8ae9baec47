package dev.kavrin.standin;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import io.jhdf.HdfFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The solver really solves: held against what a handbook says of the heat equation. */
class HeatSolverTest {
  private static final Instant NOW = Instant.parse("2031-03-03T09:00:00Z");

  /** Without pads: what is there only spreads, and leaks to the air if {@code cooling} says so. */
  private static HeatSetup still(int rings, int sectors, double cooling, int substeps) {
    return new HeatSetup(
        "still", 0.08, 0.16, rings, sectors, 48, 3.6e6, 0, cooling, 293.15, 2, substeps, List.of());
  }

  /**
   * On one thin ring of radius r a wave round it, cos(mθ), dies away as exp(−(k·m²/r² + c)·t/C):
   * the heat equation by separation of variables (J. Fourier, 1822; from memory).
   */
  @Property(tries = 40)
  void aWaveRoundARingDiesAwayAsSeparationOfVariablesSays(
      @ForAll @IntRange(min = 1, max = 3) int wave,
      @ForAll @DoubleRange(min = 0, max = 2e4) double cooling,
      @ForAll @IntRange(min = 1, max = 30) int steps) {
    HeatSetup setup = still(1, 240, cooling, 64);
    double[][] kelvin = new double[1][240];
    for (int j = 0; j < 240; j++) {
      kelvin[0][j] = 293.15 + 100 * Math.cos(wave * 2 * Math.PI * j / 240);
    }
    HeatField field = new HeatField(setup, kelvin);
    for (int step = 1; step <= steps; step++) {
      field.advance(step);
    }
    double r = 0.12;
    double rate = (48 * wave * wave / (r * r) + cooling) / 3.6e6;
    double left = 100 * Math.exp(-rate * 2 * steps);
    assertThat(field.kelvin()[0][0] - 293.15).isCloseTo(left, within(0.01 * left + 0.01));
  }

  /** Conservation: with nothing added and nothing lost, the heat of the whole disc stays. */
  @Property(tries = 30)
  void heatIsNeitherMadeNorLost(@ForAll @IntRange(min = 0, max = 1_000_000) int seed) {
    HeatSetup setup = still(8, 16, 0, 16);
    java.util.Random random = new java.util.Random(seed);
    double[][] kelvin = new double[8][16];
    for (double[] ring : kelvin) {
      for (int j = 0; j < ring.length; j++) {
        ring[j] = 280 + 200 * random.nextDouble();
      }
    }
    double before = heat(setup, kelvin);
    HeatField field = new HeatField(setup, kelvin);
    for (int step = 1; step <= 20; step++) {
      field.advance(step);
    }
    assertThat(heat(setup, field.kelvin())).isCloseTo(before, within(1e-9 * before));
    assertThat(field.hottest()).as("it only spreads").isLessThanOrEqualTo(480);
  }

  private static double heat(HeatSetup setup, double[][] kelvin) {
    double dr = (setup.outer() - setup.inner()) / setup.rings();
    double sum = 0;
    for (int i = 0; i < kelvin.length; i++) {
      for (double value : kelvin[i]) {
        sum += (setup.inner() + (i + 0.5) * dr) * value;
      }
    }
    return sum;
  }

  /**
   * The explicit scheme is stable up to Δt = C/(2k(1/Δr² + 1/(rΔθ)²)) and runs away well past it:
   * J. von Neumann's analysis (from memory).
   */
  @Test
  void pastVonNeumannsLimitItRunsAway() {
    HeatSetup disc = HeatSetup.brakeDisc();
    double dr = (disc.outer() - disc.inner()) / disc.rings();
    double round = (disc.inner() + dr / 2) * 2 * Math.PI / disc.sectors();
    double longest =
        disc.capacity() / (2 * disc.conductivity() * (1 / (dr * dr) + 1 / (round * round)));
    int enough = (int) Math.ceil(disc.seconds() / (0.9 * longest));
    HeatField holds = new HeatField(disc.withSubsteps(enough));
    HeatField runs = new HeatField(with(disc, 100));
    for (int step = 1; step <= 300; step++) {
      holds.advance(step);
      runs.advance(step);
    }
    assertThat(holds.hottest()).isBetween(293.15, 2000.0);
    assertThat(Double.isFinite(runs.hottest()) && runs.hottest() < 1e6).isFalse();
  }

  /** The same disc with steps so long that one substep is far past the limit. */
  private static HeatSetup with(HeatSetup disc, double seconds) {
    return new HeatSetup(
        disc.title(),
        disc.inner(),
        disc.outer(),
        disc.rings(),
        disc.sectors(),
        disc.conductivity(),
        disc.capacity(),
        disc.flux(),
        disc.cooling(),
        disc.ambient(),
        seconds,
        1,
        disc.stages());
  }

  @TempDir private Path folder;

  private Path setup(HeatSetup setup) throws IOException {
    Path file = folder.resolve("disc.setup.json");
    HeatSolver.begin(file, setup, () -> NOW);
    return file;
  }

  @Test
  void aRunThatGoesOnFromARestartFileIsTheRunThatNeverStopped() throws IOException {
    Path file = setup(HeatSetup.brakeDisc());
    try (HeatSolver whole = new HeatSolver(file, 0, () -> NOW)) {
      for (int step = 0; step < 6; step++) {
        whole.advance();
      }
      double[][] wanted = temperatures(whole.resultFile(6));
      Files.delete(whole.resultFile(6));
      Files.delete(whole.restartFile(6));
      try (HeatSolver again = new HeatSolver(file, 4, () -> NOW)) {
        again.advance();
        again.advance();
        assertThat(again.step()).isEqualTo(6);
        assertThat(temperatures(again.resultFile(6))).isDeepEqualTo(wanted);
      }
    }
  }

  private static double[][] temperatures(Path result) {
    try (HdfFile read = new HdfFile(result)) {
      return (double[][]) read.getDatasetByPath("temperature").getData();
    }
  }

  @Test
  void resultsSayTheirStepTimeAndUnits() throws IOException {
    Path file = setup(HeatSetup.brakeDisc());
    try (HeatSolver solver = new HeatSolver(file, 0, () -> NOW)) {
      solver.advance();
      solver.advance();
      try (HdfFile read = new HdfFile(solver.resultFile(2))) {
        assertThat(read.getAttribute("step").getData()).isEqualTo(2L);
        assertThat(read.getAttribute("time").getData()).isEqualTo(4.0);
        assertThat(read.getDatasetByPath("temperature").getAttribute("unit").getData())
            .isEqualTo("K");
        assertThat(read.getDatasetByPath("radial flow").getDimensions()).containsExactly(24, 48);
      }
      assertThat(Files.readAllLines(solver.history())).hasSize(2);
      assertThat(solver.sign()).exists();
    }
    assertThat(folder.resolve(".disc.running")).doesNotExist();
  }

  @Test
  void aSetupIsReadAsItWasWritten() throws IOException {
    HeatSetup written = HeatSetup.brakeDisc().withStage(5, 0.4).withSubsteps(20);
    assertThat(HeatSetup.read(setup(written))).isEqualTo(written);
    assertThat(written.share(4)).isEqualTo(1.0);
    assertThat(written.share(5)).isEqualTo(0.4);
    assertThat(HeatSetup.brakeDisc().withStage(5, 0.4).withStage(3, 0).share(9)).isZero();
  }
}
