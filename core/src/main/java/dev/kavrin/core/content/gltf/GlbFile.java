package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.PartWriter;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.content.mesh.Shapes;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A glTF document opened for reading: its structure, its scene, and geometry on demand. */
public final class GlbFile implements Shapes {
  private static final JsonMapper MAPPER = JsonMapper.shared();
  private static final int TRIANGLES = 4;

  private final GlbContainer container;
  private final SeekableByteChannel in;
  private final JsonNode json;
  private final GltfScene scene;
  private final Buffers buffers;
  private final Accessors accessors;
  private final List<Finding> findings;

  private GlbFile(
      GlbContainer container,
      SeekableByteChannel in,
      JsonNode json,
      GltfScene scene,
      Buffers buffers,
      Accessors accessors,
      List<Finding> findings) {
    this.container = container;
    this.in = in;
    this.json = json;
    this.scene = scene;
    this.buffers = buffers;
    this.accessors = accessors;
    this.findings = findings;
  }

  /** Opens what can be opened; the channel stays the caller's. */
  public static GlbFile open(SeekableByteChannel in) throws IOException {
    return open(in, SiblingFiles.NOTHING);
  }

  /** The same, with buffers that lie beside the file; close it to let go of those. */
  public static GlbFile open(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    List<Finding> findings = new ArrayList<>();
    boolean text = isText(in);
    GlbContainer container =
        text ? GlbContainer.text(in, findings) : GlbContainer.read(in, findings);
    JsonNode json = MAPPER.createObjectNode();
    if (container.json() != null) {
      try {
        JsonNode read = MAPPER.readTree(container.json());
        if (read.isObject()) {
          json = read;
        } else {
          findings.add(
              Finding.damaged("structure", text ? 0 : 20, "Its structure is not a JSON object."));
        }
      } catch (JacksonException broken) {
        findings.add(
            Finding.damaged(
                "structure",
                (text ? 0 : 20) + Math.max(0, broken.getLocation().getByteOffset()),
                "Its structure is not readable JSON."));
      }
    }
    GltfScene scene = GltfScene.of(json);
    Buffers buffers = new Buffers(json, container, in, beside);
    for (String missing : buffers.missing()) {
      findings.add(
          new Finding(
              "data-elsewhere",
              Finding.Severity.NOTE,
              -1,
              "Its data lies in " + missing + ", which is not beside this copy.",
              "Bring that file back too."));
    }
    Accessors accessors = new Accessors(json, buffers);
    accessors.check(container, findings);
    if (scene.isTangled()) {
      findings.add(
          Finding.damaged("scene", -1, "Its scene names parts that are absent or used twice."));
    }
    return new GlbFile(container, in, json, scene, buffers, accessors, findings);
  }

  private static boolean isText(SeekableByteChannel in) throws IOException {
    ByteBuffer head = Bytes.head(in, 64);
    while (head.hasRemaining()) {
      byte first = head.get();
      if (first > ' ') {
        return first == '{';
      }
    }
    return false;
  }

  @Override
  public void close() throws IOException {
    buffers.close();
  }

  /** True if it stands in a container, false if it is text. */
  boolean isBinary() {
    return container.isBinary();
  }

  /** Writes the first bytes of the data chunk. */
  void copyData(long bytes, OutputStream out) throws IOException {
    if (bytes > container.binPresent()) {
      throw new PartWriter.CannotTake("The file they would go into lacks some of its data.");
    }
    try (InputStream data =
        Bytes.between(in, container.binOffset(), container.binOffset() + bytes)) {
      data.transferTo(out);
    }
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

  @Override
  public List<String> parts() {
    return scene.nodes().stream()
        .filter(n -> n.mesh() >= 0 && !n.hidden())
        .map(GltfScene.Placed::path)
        .toList();
  }

  /** Geometry of a part in world space, null if there is none or it cannot be read. */
  @Override
  public MeshData shape(String part) throws IOException {
    for (GltfScene.Placed node : scene.nodes()) {
      if (node.path().equals(part) && node.mesh() >= 0) {
        MeshData local = mesh(node.mesh());
        return local == null ? null : placed(node, local);
      }
    }
    return null;
  }

  /** In world space; a mirroring transform turns the winding round (section 3.7.4). */
  static MeshData placed(GltfScene.Placed node, MeshData local) {
    MeshData world = new MeshData(node.world().apply(local.points()), local.corners());
    return node.world().mirrors() ? world.turnedRound() : world;
  }
}
