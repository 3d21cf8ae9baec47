package dev.kavrin.standin;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * What the solver is told, as a JSON file beside its run.
 *
 * @param inner radius in m
 * @param outer radius in m
 * @param rings cells from inner to outer
 * @param sectors cells round the disc
 * @param conductivity in W/(m K)
 * @param capacity volumetric, in J/(m³ K)
 * @param flux heat from the pads, in W/m³ of the cells below them
 * @param cooling to the air, in W/(m³ K)
 * @param seconds between two steps
 * @param substeps of the explicit scheme in each step; too few and it diverges
 * @param stages from which step on the pads give another share of the flux
 */
public record HeatSetup(
    String title,
    double inner,
    double outer,
    int rings,
    int sectors,
    double conductivity,
    double capacity,
    double flux,
    double cooling,
    double ambient,
    double seconds,
    int substeps,
    List<Stage> stages) {
  private static final JsonMapper MAPPER =
      JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

  /** From a step on, a share of the full flux. */
  public record Stage(long step, double share) {}

  /** Half-ventilated grey iron, held at creeping speed. */
  public static HeatSetup brakeDisc() {
    return new HeatSetup(
        "Brake disc, held down the incline",
        0.08,
        0.16,
        24,
        48,
        48,
        3.6e6,
        9.0e6,
        6.0e3,
        293.15,
        2.0,
        16,
        List.of(new Stage(1, 1.0)));
  }

  public static HeatSetup read(Path file) throws IOException {
    return MAPPER.readValue(Files.readString(file), HeatSetup.class);
  }

  byte[] written() {
    return MAPPER.writeValueAsBytes(this);
  }

  double share(long step) {
    return stages.stream()
        .filter(s -> s.step() <= step)
        .reduce((earlier, later) -> later)
        .map(Stage::share)
        .orElse(0.0);
  }

  public HeatSetup withStage(long step, double share) {
    List<Stage> more = new ArrayList<>(stages);
    more.removeIf(s -> s.step() >= step);
    more.add(new Stage(step, share));
    return with(substeps, more);
  }

  public HeatSetup withSubsteps(int count) {
    return with(count, stages);
  }

  private HeatSetup with(int count, List<Stage> changed) {
    return new HeatSetup(
        title,
        inner,
        outer,
        rings,
        sectors,
        conductivity,
        capacity,
        flux,
        cooling,
        ambient,
        seconds,
        count,
        changed);
  }
}
