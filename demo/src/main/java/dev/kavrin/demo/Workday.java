package dev.kavrin.demo;

import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.standin.Modeller;
import dev.kavrin.standin.Shapes;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** One session at the modelling program, minute by minute on a simulated clock. */
final class Workday {
  private static final Duration TICK = Duration.ofSeconds(30);
  private static final List<String> SOMETIMES_MOVED =
      List.of(
          "Axle box front",
          "Axle box rear",
          "Cable grip",
          "Bench lower",
          "Bench upper",
          "Lantern front",
          "Brake beam",
          "Door middle",
          "Roof upper");

  /** Something the person does at a given minute of the day. */
  record Act(int minute, String verb, String part) {}

  /** Kavrin's own look, once a tick. */
  interface Look {
    void once() throws IOException;
  }

  private final SimClock clock;
  private final Random random;
  private final Look look;

  Workday(SimClock clock, Random random, Look look) {
    this.clock = clock;
    this.random = random;
    this.look = look;
  }

  /** Works for some minutes; routine edits and saves fall between the given acts. */
  void work(Modeller modeller, int minutes, int routineUntil, List<Act> acts) throws IOException {
    int nextSave = 22 + random.nextInt(12);
    List<Act> left = new ArrayList<>(acts);
    for (int minute = 0; minute < minutes; minute++) {
      if (minute < routineUntil && random.nextInt(9) == 0) {
        edit(modeller);
      }
      for (Act act : List.copyOf(left)) {
        if (act.minute() == minute) {
          carryOut(modeller, act);
          left.remove(act);
        }
      }
      if (minute == nextSave && minute < routineUntil) {
        modeller.save();
        nextSave += 24 + random.nextInt(20);
      }
      for (int half = 0; half < 2; half++) {
        modeller.copyIfDue();
        look.once();
        clock.advance(TICK);
      }
    }
  }

  private void edit(Modeller modeller) {
    String part = SOMETIMES_MOVED.get(random.nextInt(SOMETIMES_MOVED.size()));
    double x = (random.nextInt(13) - 6) / 1000.0;
    modeller.scene().change(part, Shapes.moved(modeller.scene().mesh(part), x, 0.0021, 0));
    modeller.touched();
  }

  private void carryOut(Modeller modeller, Act act) throws IOException {
    switch (act.verb()) {
      case "save" -> modeller.save();
      case "remove" -> modeller.scene().remove(act.part());
      case "turn" ->
          modeller
              .scene()
              .change(act.part(), Shapes.turnedRound(modeller.scene().mesh(act.part())));
      default -> modeller.scene().put(act.part(), act.verb(), newPart(act.part()));
    }
    modeller.touched();
  }

  private static MeshData newPart(String name) {
    double z = name.endsWith("left") ? 0.72 : name.endsWith("right") ? -0.72 : 0;
    double x = name.contains("rear") ? -2.05 : name.contains("shoe") ? 2.1 : 0.8;
    return name.contains("shoe")
        ? Shapes.moved(Shapes.box(0.12, 0.34, 0.16, 10), x, -1.2, z)
        : Shapes.moved(Shapes.bar(0.05, 0.6, 20, 12), x, -0.85, z);
  }
}
