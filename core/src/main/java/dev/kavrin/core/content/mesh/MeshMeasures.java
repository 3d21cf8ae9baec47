package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.Measure;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.CompletableFuture;

/** The numbers of a mesh in world space. */
public final class MeshMeasures {
  private MeshMeasures() {}

  /**
   * By name, in a fixed order.
   *
   * @param unit the file's unit of length, empty if it has none
   * @param notes told what a person should look at
   */
  public static Map<String, Measure> of(String label, MeshData mesh, String unit, MeshNotes notes) {
    Map<String, Measure> measures = new LinkedHashMap<>();
    boolean asked = mesh.triangles() > 0 && mesh.triangles() <= Topology.MOST;
    CompletableFuture<Topology> hanging =
        asked ? CompletableFuture.supplyAsync(() -> Topology.of(mesh)) : null;
    MeshData.Surface surface = mesh.surface();
    Box box = mesh.box();
    measures.put("vertices", new Measure(mesh.vertices(), ""));
    measures.put("faces", new Measure(mesh.triangles(), ""));
    measures.put("area", new Measure(surface.area(), power(unit, "²")));
    measures.put("volume", new Measure(surface.volume(), power(unit, "³")));
    measures.put("extent", new Measure(box == null ? 0 : box.diagonal(), unit));
    for (int k = 0; k < 3; k++) {
      measures.put("centre " + "xyz".charAt(k), new Measure(surface.centroid()[k], unit));
    }
    measures.put("spread", new Measure(surface.spread(), unit));
    if (hanging != null) {
      Topology topology = hanging.join();
      measures.put("holes", new Measure(topology.holes(), ""));
      measures.put("degenerate faces", new Measure(topology.degenerate(), ""));
      measures.put("twisted edges", new Measure(topology.twisted(), ""));
      if (topology.isClosed() && surface.volume() < 0) {
        notes.add("turned inside out", label);
      }
      if (topology.holes() > 0) {
        notes.add("with holes", label);
      }
      if (topology.degenerate() > 0) {
        notes.add("with faces without an area", label);
      }
    }
    return measures;
  }

  private static String power(String unit, String power) {
    return unit.isEmpty() ? "" : unit + power;
  }
}
