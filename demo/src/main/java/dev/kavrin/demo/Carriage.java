package dev.kavrin.demo;

import static dev.kavrin.standin.Shapes.bar;
import static dev.kavrin.standin.Shapes.box;
import static dev.kavrin.standin.Shapes.coil;
import static dev.kavrin.standin.Shapes.moved;
import static dev.kavrin.standin.Shapes.torus;

import dev.kavrin.standin.Scene;

/** The Tarnwick carriage: three stepped compartments on a frame, as Ilse Quarn models it. */
final class Carriage {
  private static final String BODY = "Body";
  private static final String GEAR = "Running gear";
  private static final String BRAKES = "Brakes";
  private static final String FITTINGS = "Fittings";

  private Carriage() {}

  /** The state at the start of the first working day. */
  static Scene begun() {
    Scene scene = new Scene();
    scene.picture(BODY, "pictures/body.png");
    scene.picture(FITTINGS, "pictures/fittings.png");
    for (int c = 0; c < 3; c++) {
      compartment(scene, c);
    }
    scene.put("Frame left", GEAR, moved(box(7.4, 0.18, 0.12, 14), 0, -0.75, 0.7));
    scene.put("Frame right", GEAR, moved(box(7.4, 0.18, 0.12, 14), 0, -0.75, -0.7));
    for (String end : new String[] {"front", "rear"}) {
      axle(scene, end, end.equals("front") ? 2.5 : -2.5);
    }
    scene.put("Coupling rod", GEAR, moved(bar(0.05, 5, 24, 40), 0, -1.05, 0));
    scene.put("Cable grip", GEAR, moved(box(0.6, 0.25, 0.25, 10), 0.2, -1.1, 0));
    scene.put("Brake cylinder", BRAKES, moved(bar(0.14, 0.5, 36, 14), -0.9, -0.95, 0.25));
    scene.put("Brake beam", BRAKES, moved(box(0.14, 0.14, 1.3, 10), -1.9, -1.0, 0));
    scene.put("Handrail outer", FITTINGS, moved(bar(0.035, 6.6, 24, 60), 0, 0.35, 1.02));
    scene.put("Lantern front", FITTINGS, moved(torus(0.14, 0.05, 36, 20), 3.75, 0.95, 0));
    return scene;
  }

  private static void compartment(Scene scene, int index) {
    double x = -2.4 + index * 2.4;
    double y = -0.3 + index * 0.35;
    String name =
        switch (index) {
          case 0 -> "lower";
          case 1 -> "middle";
          default -> "upper";
        };
    scene.put("Compartment " + name, BODY, moved(box(2.2, 1.5, 1.9, 36), x, y + 0.5, 0));
    scene.put("Roof " + name, BODY, moved(box(2.3, 0.12, 2.05, 26), x, y + 1.32, 0));
    scene.put("Floor " + name, BODY, moved(box(2.2, 0.08, 1.9, 14), x, y - 0.3, 0));
    scene.put("Door " + name, BODY, moved(box(0.8, 1.3, 0.06, 10), x, y + 0.4, 0.98));
    scene.put("Bench " + name, FITTINGS, moved(box(1.7, 0.4, 0.5, 10), x, y, -0.55));
  }

  private static void axle(Scene scene, String end, double x) {
    scene.put("Axle " + end, GEAR, moved(box(0.12, 0.12, 1.7, 8), x, -1.25, 0));
    for (String side : new String[] {"left", "right"}) {
      double z = side.equals("left") ? 0.72 : -0.72;
      scene.put(
          "Wheel " + end + " " + side, GEAR, moved(turned(torus(0.32, 0.09, 64, 32)), x, -1.25, z));
      scene.put(
          "Spring " + end + " " + side, GEAR, moved(coil(0.11, 0.022, 0.34, 6, 14), x, -0.98, z));
    }
    scene.put("Axle box " + end, GEAR, moved(box(0.3, 0.26, 0.2, 8), x, -1.25, 0.95));
  }

  private static dev.kavrin.core.content.mesh.MeshData turned(
      dev.kavrin.core.content.mesh.MeshData ring) {
    float[] p = ring.points().clone();
    for (int i = 0; i < p.length; i += 3) {
      float x = p[i];
      p[i] = p[i + 2];
      p[i + 2] = -x;
    }
    return new dev.kavrin.core.content.mesh.MeshData(p, ring.corners());
  }
}
