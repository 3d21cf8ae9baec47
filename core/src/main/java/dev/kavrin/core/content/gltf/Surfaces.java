package dev.kavrin.core.content.gltf;

import dev.kavrin.core.chunk.ContentHash;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;
import tools.jackson.databind.JsonNode;

/**
 * What materials come to, however they are written: without their names and without what the
 * standard takes for granted (glTF 2.0, section 5.19 and those it names), numbers as the 32-bit
 * floats they stand for, pictures by what they are instead of by their numbers.
 */
final class Surfaces {
  private static final int LARGEST_PICTURE = 64_000_000;
  private static final Map<String, String> USUAL =
      Map.ofEntries(
          Map.entry("baseColorFactor", "[1.0,1.0,1.0,1.0]"),
          Map.entry("metallicFactor", "1.0"),
          Map.entry("roughnessFactor", "1.0"),
          Map.entry("emissiveFactor", "[0.0,0.0,0.0]"),
          Map.entry("alphaMode", "OPAQUE"),
          Map.entry("alphaCutoff", "0.5"),
          Map.entry("doubleSided", "false"),
          Map.entry("texCoord", "0.0"),
          Map.entry("scale", "1.0"),
          Map.entry("strength", "1.0"));

  private final JsonNode json;
  private final Accessors accessors;
  private final Map<Integer, String> pictures = new HashMap<>();

  Surfaces(JsonNode json, Accessors accessors) {
    this.json = json;
    this.accessors = accessors;
  }

  /** Of all the materials of a mesh, in the order of its primitives. */
  String of(int mesh) throws IOException {
    StringBuilder text = new StringBuilder();
    for (JsonNode primitive : json.path("meshes").path(mesh).path("primitives")) {
      JsonNode material = json.path("materials").path(primitive.path("material").asInt(-1));
      text.append(canonical(material)).append('|');
    }
    return ContentHash.of(text.toString()).digest();
  }

  private String canonical(JsonNode node) throws IOException {
    if (node.isNumber()) {
      return String.valueOf(node.floatValue());
    }
    if (node.isArray()) {
      StringBuilder text = new StringBuilder("[");
      for (int i = 0; i < node.size(); i++) {
        text.append(i == 0 ? "" : ",").append(canonical(node.path(i)));
      }
      return text.append(']').toString();
    }
    if (!node.isObject()) {
      return node.isMissingNode() ? "" : node.asString("");
    }
    Map<String, String> said = new TreeMap<>();
    for (Map.Entry<String, JsonNode> field : node.properties()) {
      String value =
          field.getKey().equals("index")
              ? picture(field.getValue().asInt(-1))
              : canonical(field.getValue());
      boolean named = field.getKey().equals("name");
      if (!named && !value.equals(USUAL.get(field.getKey())) && !value.equals("{}")) {
        said.put(field.getKey(), value);
      }
    }
    return said.toString();
  }

  private String picture(int texture) throws IOException {
    String known = pictures.get(texture);
    if (known == null) {
      JsonNode source = json.path("textures").path(texture);
      JsonNode image = json.path("images").path(source.path("source").asInt(-1));
      String uri = image.path("uri").asString("");
      byte[] bytes =
          uri.isEmpty()
              ? accessors.viewBytes(image.path("bufferView").asInt(-1), LARGEST_PICTURE)
              : null;
      known =
          uri.startsWith("data:")
              ? ContentHash.of(uri).digest()
              : bytes != null ? ContentHash.of(bytes).digest() : uri;
      pictures.put(texture, known);
    }
    return known;
  }
}
