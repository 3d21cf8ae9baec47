package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.Finding;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A GLB opened for reading: its structure, its scene, and geometry on demand. */
public final class GlbFile {
  private static final JsonMapper MAPPER = JsonMapper.shared();
  private static final int TRIANGLES = 4;

  private final JsonNode json;
  private final GltfScene scene;
  private final Accessors accessors;
  private final List<Finding> findings;

  private GlbFile(JsonNode json, GltfScene scene, Accessors accessors, List<Finding> findings) {
    this.json = json;
    this.scene = scene;
    this.accessors = accessors;
    this.findings = findings;
  }

  /** Opens what can be opened; the channel stays the caller's. */
  public static GlbFile open(SeekableByteChannel in) throws IOException {
    List<Finding> findings = new ArrayList<>();
    GlbContainer container = GlbContainer.read(in, findings);
    JsonNode json = MAPPER.createObjectNode();
    if (container.json() != null) {
      try {
        JsonNode read = MAPPER.readTree(container.json());
        if (read.isObject()) {
          json = read;
        } else {
          findings.add(Finding.damaged("structure", 20, "Its structure is not a JSON object."));
        }
      } catch (JacksonException broken) {
        findings.add(
            Finding.damaged(
                "structure",
                20 + Math.max(0, broken.getLocation().getByteOffset()),
                "Its structure is not readable JSON."));
      }
    }
    GltfScene scene = GltfScene.of(json);
    Accessors accessors = new Accessors(json, container, in);
    accessors.check(findings);
    if (scene.isTangled()) {
      findings.add(
          Finding.damaged("scene", -1, "Its scene names parts that are absent or used twice."));
    }
    return new GlbFile(json, scene, accessors, findings);
  }

  JsonNode json() {
    return json;
  }

  Accessors accessors() {
    return accessors;
  }

  List<Finding> findings() {
    return findings;
  }

  List<GltfScene.Placed> nodes() {
    return scene.nodes();
  }

  /** Geometry of a mesh in local space; null if not all of it is in the file. */
  MeshData mesh(int index) throws IOException {
    List<float[]> points = new ArrayList<>();
    List<int[]> corners = new ArrayList<>();
    int vertices = 0;
    for (JsonNode primitive : json.path("meshes").path(index).path("primitives")) {
      if (primitive.path("mode").asInt(TRIANGLES) != TRIANGLES) {
        continue;
      }
      float[] position = accessors.floats(primitive.path("attributes").path("POSITION").asInt(-1));
      int[] order = position == null ? null : order(primitive, position.length / 3);
      if (order == null) {
        return null;
      }
      for (int i = 0; i < order.length; i++) {
        order[i] += vertices;
      }
      vertices += position.length / 3;
      points.add(position);
      corners.add(order);
    }
    return new MeshData(joined(points), joinedInts(corners));
  }

  private int[] order(JsonNode primitive, int vertices) throws IOException {
    int[] order;
    if (primitive.has("indices")) {
      order = accessors.ints(primitive.path("indices").asInt(-1));
    } else {
      order = new int[vertices - vertices % 3];
      java.util.Arrays.setAll(order, i -> i);
    }
    if (order == null || order.length % 3 != 0) {
      return null;
    }
    for (int corner : order) {
      if (corner < 0 || corner >= vertices) {
        findings.add(
            Finding.damaged(
                "index-bounds", -1, "A triangle names vertex " + corner + " of " + vertices + "."));
        return null;
      }
    }
    return order;
  }

  private static float[] joined(List<float[]> pieces) {
    float[] out = new float[pieces.stream().mapToInt(p -> p.length).sum()];
    int at = 0;
    for (float[] piece : pieces) {
      System.arraycopy(piece, 0, out, at, piece.length);
      at += piece.length;
    }
    return out;
  }

  private static int[] joinedInts(List<int[]> pieces) {
    return pieces.stream().flatMapToInt(java.util.Arrays::stream).toArray();
  }

  /** Geometry of a part in world space, null if there is none or it is not in the file. */
  public MeshData worldMesh(String part) throws IOException {
    for (GltfScene.Placed node : scene.nodes()) {
      if (node.path().equals(part) && node.mesh() >= 0) {
        MeshData local = mesh(node.mesh());
        return local == null
            ? null
            : new MeshData(node.world().apply(local.points()), local.corners());
      }
    }
    return null;
  }
}
