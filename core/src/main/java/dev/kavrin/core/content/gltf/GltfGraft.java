package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.PartWriter.Brought;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.gltf.GltfScene.Placed;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** A glTF document that nodes of others are put into. */
final class GltfGraft {
  private static final List<String> TRANSFORM =
      List.of("matrix", "translation", "rotation", "scale");

  private final GlbFile base;
  private final ObjectNode json;
  private final GltfData data;
  private final Map<String, Stand> stands = new HashMap<>();
  private final List<Done> done = new ArrayList<>();

  /** Where a node is and where that puts it. */
  private record Stand(int node, Matrix world) {}

  private record Done(
      String from, int node, boolean replaced, List<String> along, List<String> told) {}

  GltfGraft(GlbFile base) throws IOException {
    if (base.json().path("nodes").isMissingNode() && base.json().path("asset").isMissingNode()) {
      throw new CannotTake("The file they would go into cannot be read.");
    }
    this.base = base;
    this.json = (ObjectNode) base.json().deepCopy();
    this.data = new GltfData(json, base.isBinary());
    base.nodes().forEach(n -> stands.put(n.path(), new Stand(n.node(), n.world())));
  }

  void take(GlbFile from, List<String> parts) throws IOException {
    GltfCopy copy = new GltfCopy(from, json, data);
    for (String part : parts) {
      boolean any = false;
      for (Placed placed : from.nodes()) {
        boolean itself = placed.path().equals(part);
        boolean below = placed.path().startsWith(part + "/") && isGroup(from, part);
        if (placed.mesh() >= 0 && (itself || below)) {
          put(from, placed, copy);
          any = true;
        }
      }
      if (!any) {
        throw new CannotTake(part + " is no mesh or group of meshes in that version.");
      }
    }
  }

  private static boolean isGroup(GlbFile from, String part) {
    return placed(from, part).filter(p -> p.mesh() < 0).isPresent();
  }

  private static Optional<Placed> placed(GlbFile from, String path) {
    return from.nodes().stream().filter(n -> n.path().equals(path)).findFirst();
  }

  private void put(GlbFile from, Placed placed, GltfCopy copy) throws IOException {
    ObjectNode source = (ObjectNode) from.json().path("nodes").path(placed.node());
    if (source.has("skin")) {
      throw new CannotTake(
          placed.label()
              + " hangs on a skeleton and cannot be taken alone. Restore the whole version.");
    }
    List<String> told = new ArrayList<>();
    int mesh = copy.mesh(placed.mesh());
    Stand there = stands.get(placed.path());
    ObjectNode node;
    if (there != null) {
      node = (ObjectNode) json.path("nodes").path(there.node());
    } else {
      node = source.deepCopy();
      node.remove(List.of("children", "camera", "extensions"));
    }
    node.put("mesh", mesh);
    node.remove("weights");
    if (source.has("weights")) {
      node.set("weights", source.get("weights").deepCopy());
    }
    int index = there != null ? there.node() : list("nodes").add(node).size() - 1;
    Matrix above = there != null ? aboveOf(placed) : attach(from, placed, index);
    if (there == null && !node.has("name")) {
      node.put("name", placed.label());
    }
    stand(from, placed, node, source, above, told);
    stands.put(placed.path(), new Stand(index, placed.world()));
    done.add(new Done(placed.path(), index, there != null, copy.along(), told));
  }

  private Matrix aboveOf(Placed placed) {
    return placed.parent() == null ? Matrix.IDENTITY : stands.get(placed.parent()).world();
  }

  /** Under what it belonged to, which is made if it is not there; answers where that stands. */
  private Matrix attach(GlbFile from, Placed placed, int index) {
    if (placed.parent() == null) {
      roots().add(index);
      return Matrix.IDENTITY;
    }
    Stand above = stands.get(placed.parent());
    if (above == null) {
      Placed group = placed(from, placed.parent()).orElseThrow();
      ObjectNode made = json.objectNode().put("name", group.label());
      int at = list("nodes").add(made).size() - 1;
      Matrix over = attach(from, group, at);
      ObjectNode like = (ObjectNode) from.json().path("nodes").path(group.node());
      stand(from, group, made, like, over, new ArrayList<>());
      above = new Stand(at, group.world());
      stands.put(group.path(), above);
    }
    ObjectNode parent = (ObjectNode) json.path("nodes").path(above.node());
    (parent.has("children") ? (ArrayNode) parent.get("children") : parent.putArray("children"))
        .add(index);
    return above.world();
  }

  /** So that it stands in space where it stood. */
  private static void stand(
      GlbFile from,
      Placed placed,
      ObjectNode node,
      ObjectNode source,
      Matrix above,
      List<String> told) {
    Matrix before =
        placed.parent() == null
            ? Matrix.IDENTITY
            : placed(from, placed.parent()).orElseThrow().world();
    node.remove(TRANSFORM);
    if (Arrays.equals(before.m(), above.m())) {
      TRANSFORM.stream().filter(source::has).forEach(k -> node.set(k, source.get(k).deepCopy()));
    } else {
      ArrayNode matrix = node.putArray("matrix");
      for (double value : above.inverse().times(placed.world()).m()) {
        matrix.add(value);
      }
      told.add("what it belongs to stands elsewhere now; it stays where it stood");
    }
  }

  private ArrayNode list(String name) {
    return json.has(name) ? (ArrayNode) json.get(name) : json.putArray(name);
  }

  private ArrayNode roots() {
    ArrayNode scenes = list("scenes");
    if (scenes.isEmpty()) {
      scenes.addObject();
      json.put("scene", 0);
    }
    ObjectNode scene = (ObjectNode) scenes.path(json.path("scene").asInt(0));
    return scene.has("nodes") ? (ArrayNode) scene.get("nodes") : scene.putArray("nodes");
  }

  /** As they are called in what is written. */
  List<Brought> brought() {
    Map<Integer, String> paths = new HashMap<>();
    GltfScene.of(json).nodes().forEach(n -> paths.put(n.node(), n.path()));
    return done.stream()
        .map(d -> new Brought(d.from(), paths.get(d.node()), d.replaced(), d.along(), d.told()))
        .toList();
  }

  /** As the base was: in a container, or as text with the added numbers inside. */
  void write(OutputStream out) throws IOException {
    if (!base.isBinary()) {
      data.inside();
      out.write(JsonMapper.shared().writerWithDefaultPrettyPrinter().writeValueAsBytes(json));
      return;
    }
    long before = data.before();
    byte[] added = data.added();
    if (!data.goesBehind()) {
      data.inside();
      added = new byte[0];
    }
    byte[] text = JsonMapper.shared().writeValueAsBytes(json);
    byte[] padded = Arrays.copyOf(text, (text.length + 3) / 4 * 4);
    Arrays.fill(padded, text.length, padded.length, (byte) ' ');
    long bin = (before + 3) / 4 * 4 + added.length;
    long total = 20L + padded.length + (bin == 0 ? 0 : 8 + bin);
    if (total > 0xFFFF_FFFFL) {
      throw new CannotTake("The file would be larger than 4 GB, the most this format can hold.");
    }
    ByteBuffer head = ByteBuffer.allocate(20).order(ByteOrder.LITTLE_ENDIAN);
    head.putInt(GlbContainer.MAGIC).putInt(2).putInt((int) total);
    head.putInt(padded.length).put("JSON".getBytes(StandardCharsets.US_ASCII));
    out.write(head.array());
    out.write(padded);
    if (bin > 0) {
      ByteBuffer chunk = ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN);
      out.write(chunk.putInt((int) bin).putInt(0x004E4942).array());
      base.copyData(before, out);
      out.write(new byte[(int) ((before + 3) / 4 * 4 - before)]);
      out.write(added);
    }
  }

  static String uri(byte[] bytes) {
    return "data:application/octet-stream;base64," + Base64.getEncoder().encodeToString(bytes);
  }
}
