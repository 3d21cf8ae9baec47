package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.PartWriter.CannotTake;
import java.io.IOException;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Copies what meshes of one document need into another: each mesh, material, picture and stretch of
 * numbers once, however many share it.
 */
final class GltfCopy {
  private static final int LARGEST = 150_000_000;
  private static final String COMPRESSED = "KHR_draco_mesh_compression";

  private final GlbFile from;
  private final ObjectNode into;
  private final GltfData data;
  private final Map<String, Integer> copied = new HashMap<>();
  private Set<String> along = new LinkedHashSet<>();

  GltfCopy(GlbFile from, ObjectNode into, GltfData data) {
    this.from = from;
    this.into = into;
    this.data = data;
  }

  /** What came along since it was asked last. */
  List<String> along() {
    List<String> told = List.copyOf(along);
    along = new LinkedHashSet<>();
    return told;
  }

  private interface Copying {
    ObjectNode of(ObjectNode original) throws IOException;
  }

  private int once(String list, int index, Copying copying) throws IOException {
    Integer known = copied.get(list + index);
    if (known != null) {
      return known;
    }
    JsonNode original = from.json().path(list).path(index);
    if (!original.isObject()) {
      throw new CannotTake("It names something that is not in its own file.");
    }
    ObjectNode copy = copying.of((ObjectNode) original.deepCopy());
    extensions(copy);
    int same = list.equals("materials") ? same(list, copy) : -1;
    int at = same >= 0 ? same : list(list).add(copy).size() - 1;
    copied.put(list + index, at);
    return at;
  }

  private int same(String list, ObjectNode copy) {
    JsonNode all = into.path(list);
    for (int i = 0; i < all.size(); i++) {
      if (all.path(i).equals(copy)) {
        return i;
      }
    }
    return -1;
  }

  private ArrayNode list(String name) {
    return into.has(name) ? (ArrayNode) into.get(name) : into.putArray(name);
  }

  int mesh(int index) throws IOException {
    return once(
        "meshes",
        index,
        mesh -> {
          for (JsonNode primitive : mesh.path("primitives")) {
            primitive((ObjectNode) primitive);
          }
          return mesh;
        });
  }

  private void primitive(ObjectNode primitive) throws IOException {
    if (primitive.path("extensions").has(COMPRESSED)) {
      throw new CannotTake("Its shape is packed by an extension that cannot be taken apart here.");
    }
    primitive.remove("extensions");
    accessors((ObjectNode) primitive.path("attributes"));
    if (primitive.has("indices")) {
      primitive.put("indices", accessor(primitive.get("indices").asInt()));
    }
    for (JsonNode target : primitive.path("targets")) {
      accessors((ObjectNode) target);
    }
    if (primitive.has("material")) {
      primitive.put("material", material(primitive.get("material").asInt()));
    }
  }

  private void accessors(ObjectNode named) throws IOException {
    for (String name : List.copyOf(named.propertyNames())) {
      named.put(name, accessor(named.get(name).asInt()));
    }
  }

  private int accessor(int index) throws IOException {
    return once(
        "accessors",
        index,
        accessor -> {
          view(accessor);
          if (accessor.has("sparse")) {
            view((ObjectNode) accessor.at("/sparse/indices"));
            view((ObjectNode) accessor.at("/sparse/values"));
          }
          return accessor;
        });
  }

  private void view(ObjectNode user) throws IOException {
    if (user.has("bufferView")) {
      user.put("bufferView", view(user.get("bufferView").asInt()));
    }
  }

  private int view(int index) throws IOException {
    Integer known = copied.get("bufferViews" + index);
    if (known != null) {
      return known;
    }
    byte[] bytes = from.accessors().viewBytes(index, LARGEST);
    if (bytes == null) {
      throw new CannotTake(
          "Its numbers are not all there: they lie in a file that is missing, or are damaged.");
    }
    ObjectNode like = (ObjectNode) from.json().path("bufferViews").path(index).deepCopy();
    like.remove("extensions");
    int at = data.view(bytes, like);
    copied.put("bufferViews" + index, at);
    return at;
  }

  private int material(int index) throws IOException {
    String name = from.json().path("materials").path(index).path("name").asString("");
    int before = into.path("materials").size();
    int at =
        once(
            "materials",
            index,
            material -> {
              textures(material);
              return material;
            });
    if (at >= before) {
      along.add(name.isEmpty() ? "a material" : "material " + name);
    }
    return at;
  }

  /** A texture is named by an object called something with "Texture". */
  private void textures(ObjectNode node) throws IOException {
    for (String key : List.copyOf(node.propertyNames())) {
      if (node.get(key) instanceof ObjectNode inner) {
        if (key.endsWith("Texture") && inner.has("index")) {
          inner.put("index", texture(inner.get("index").asInt()));
        }
        textures(inner);
      }
    }
  }

  private int texture(int index) throws IOException {
    return once(
        "textures",
        index,
        texture -> {
          if (texture.has("sampler")) {
            texture.put("sampler", once("samplers", texture.get("sampler").asInt(), s -> s));
          }
          if (texture.has("source")) {
            texture.put("source", image(texture.get("source").asInt()));
          }
          return texture;
        });
  }

  private int image(int index) throws IOException {
    return once(
        "images",
        index,
        image -> {
          view(image);
          String uri = image.path("uri").asString("");
          along.add(
              uri.isEmpty() || uri.startsWith("data:")
                  ? "picture " + image.path("name").asString(String.valueOf(index))
                  : "picture " + uri + ", by its name");
          return image;
        });
  }

  /** What is used of extensions is said at the top (glTF 2.0, section 3.12). */
  private void extensions(JsonNode node) {
    if (node.has("extensions")) {
      for (String name : node.path("extensions").propertyNames()) {
        for (String said : List.of("extensionsUsed", "extensionsRequired")) {
          boolean there = said.equals("extensionsUsed") || contains(from.json().path(said), name);
          if (there && !contains(into.path(said), name)) {
            list(said).add(name);
          }
        }
      }
    }
    node.forEach(this::extensions);
  }

  private static boolean contains(JsonNode list, String name) {
    for (JsonNode one : list) {
      if (one.asString("").equals(name)) {
        return true;
      }
    }
    return false;
  }
}
