package dev.kavrin.standin;

import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.gltf.GlbFile;
import dev.kavrin.core.content.gltf.GlbReader;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;

/** What the modelling program holds in memory: parts in groups, and the pictures they use. */
public final class Scene {
  /** One part. */
  public record Piece(String group, MeshData mesh) {}

  private static final Map<String, double[]> COLOURS =
      Map.of(
          "Body", new double[] {0.55, 0.2, 0.16},
          "Running gear", new double[] {0.28, 0.3, 0.33},
          "Brakes", new double[] {0.6, 0.5, 0.3},
          "Fittings", new double[] {0.75, 0.6, 0.25});

  private final Map<String, Piece> pieces = new LinkedHashMap<>();
  private final Map<String, String> pictures = new LinkedHashMap<>();

  /** Opens a GLB as any program would. */
  public static Scene open(Path file) throws IOException {
    Scene scene = new Scene();
    try (SeekableByteChannel in = Files.newByteChannel(file)) {
      var inventory = new GlbReader().read(in).inventory();
      GlbFile glb = GlbFile.open(in);
      for (Part part : inventory.parts()) {
        MeshData mesh = part.kind().equals("mesh") ? glb.shape(part.id()) : null;
        if (mesh != null) {
          scene.put(part.label(), part.parent() == null ? "Body" : part.parent(), mesh);
        }
      }
      inventory.links().forEach(l -> scene.pictures.put(groupOf(l.uri()), l.uri()));
    }
    return scene;
  }

  private static String groupOf(String uri) {
    String name = uri.substring(uri.lastIndexOf('/') + 1).replaceFirst("\\.[^.]+$", "");
    return Character.toUpperCase(name.charAt(0)) + name.substring(1).replace('-', ' ');
  }

  public void put(String name, String group, MeshData mesh) {
    pieces.put(name, new Piece(group, mesh));
  }

  /** Parts of a group get this picture; the file is named after the group. */
  public void picture(String group, String uri) {
    pictures.put(group, uri);
  }

  public MeshData mesh(String name) {
    Piece piece = pieces.get(name);
    if (piece == null) {
      throw new IllegalArgumentException("No part " + name);
    }
    return piece.mesh();
  }

  public void change(String name, MeshData mesh) {
    pieces.computeIfPresent(name, (n, p) -> new Piece(p.group(), mesh));
  }

  public void remove(String name) {
    if (pieces.remove(name) == null) {
      throw new IllegalArgumentException("No part " + name);
    }
  }

  public int size() {
    return pieces.size();
  }

  /** The file as it would be saved. */
  public byte[] toGlb() {
    GlbWriter writer = new GlbWriter();
    Map<String, Integer> groups = new LinkedHashMap<>();
    Map<String, Integer> materials = new LinkedHashMap<>();
    pieces.forEach(
        (name, piece) -> {
          String group = piece.group();
          int node = groups.computeIfAbsent(group, g -> writer.group(g, -1));
          int material = materials.computeIfAbsent(group, g -> material(writer, g));
          boolean pictured = pictures.containsKey(group);
          writer.mesh(
              name, node, piece.mesh(), null, pictured ? texels(piece.mesh()) : null, material);
        });
    return writer.bytes(Map.of());
  }

  private int material(GlbWriter writer, String group) {
    String uri = pictures.get(group);
    if (uri != null) {
      return writer.picturedMaterial(group, uri);
    }
    double[] c = COLOURS.getOrDefault(group, new double[] {0.6, 0.6, 0.6});
    return writer.material(group, c[0], c[1], c[2]);
  }

  private static float[] texels(MeshData mesh) {
    float[] texels = new float[mesh.vertices() * 2];
    for (int v = 0; v < mesh.vertices(); v++) {
      texels[v * 2] = mesh.points()[v * 3] * 0.5f;
      texels[v * 2 + 1] = mesh.points()[v * 3 + 1] * 0.5f;
    }
    return texels;
  }
}
