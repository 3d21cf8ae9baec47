package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.mesh.MeshData;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.json.JsonMapper;

/**
 * Makes GLB files of named triangle meshes (glTF 2.0). One mesh becomes one node; groups are nodes
 * without geometry. Not for use by two threads.
 */
public final class GlbWriter {
  private static final int ARRAY_BUFFER = 34962;
  private static final int ELEMENT_ARRAY_BUFFER = 34963;

  private final List<Map<String, Object>> nodes = new ArrayList<>();
  private final List<Map<String, Object>> meshes = new ArrayList<>();
  private final List<Map<String, Object>> accessors = new ArrayList<>();
  private final List<Map<String, Object>> views = new ArrayList<>();
  private final List<Map<String, Object>> materials = new ArrayList<>();
  private final List<Map<String, Object>> textures = new ArrayList<>();
  private final List<Map<String, Object>> images = new ArrayList<>();
  private final List<Integer> roots = new ArrayList<>();
  private final ByteArrayOutputStream bin = new ByteArrayOutputStream();

  /** A surface of one colour, red, green, blue from 0 to 1; returns its number. */
  public int material(String name, double red, double green, double blue) {
    Map<String, Object> shading = new LinkedHashMap<>();
    shading.put("baseColorFactor", List.of(red, green, blue, 1.0));
    shading.put("metallicFactor", 0.1);
    shading.put("roughnessFactor", 0.8);
    return add(materials, map("name", name, "pbrMetallicRoughness", shading));
  }

  /** A surface with a picture beside the file, named by a relative path. */
  public int picturedMaterial(String name, String uri) {
    int image = add(images, map("uri", uri));
    int texture = add(textures, map("source", image));
    Map<String, Object> shading = map("baseColorTexture", map("index", texture));
    shading.put("metallicFactor", 0.1);
    return add(materials, map("name", name, "pbrMetallicRoughness", shading));
  }

  /** A node that only holds others; {@code parent} is a node number or −1. */
  public int group(String name, int parent) {
    return hang(add(nodes, map("name", name)), parent);
  }

  /**
   * A node with a mesh.
   *
   * @param move translation x, y, z, or null
   * @param texels u, v of each vertex, or null
   */
  public int mesh(
      String name, int parent, MeshData data, double[] move, float[] texels, int material) {
    Map<String, Object> attributes = map("POSITION", positions(data.points()));
    if (texels != null) {
      attributes.put(
          "TEXCOORD_0", accessor(floats(texels), ARRAY_BUFFER, 5126, texels.length / 2, "VEC2"));
    }
    Map<String, Object> primitive =
        map(
            "attributes",
            attributes,
            "indices",
            accessor(
                ints(data.corners()), ELEMENT_ARRAY_BUFFER, 5125, data.corners().length, "SCALAR"));
    if (material >= 0) {
      primitive.put("material", material);
    }
    int mesh = add(meshes, map("name", name, "primitives", List.of(primitive)));
    Map<String, Object> node = map("name", name, "mesh", mesh);
    if (move != null) {
      node.put("translation", List.of(move[0], move[1], move[2]));
    }
    return hang(add(nodes, node), parent);
  }

  @SuppressWarnings("unchecked")
  private int hang(int node, int parent) {
    if (parent < 0) {
      roots.add(node);
    } else {
      ((List<Integer>) nodes.get(parent).computeIfAbsent("children", k -> new ArrayList<Integer>()))
          .add(node);
    }
    return node;
  }

  private int positions(float[] points) {
    int index = accessor(floats(points), ARRAY_BUFFER, 5126, points.length / 3, "VEC3");
    dev.kavrin.core.content.Box box = new MeshData(points, new int[0]).box();
    accessors.get(index).put("min", box.min());
    accessors.get(index).put("max", box.max());
    return index;
  }

  private int accessor(ByteBuffer data, int target, int type, int count, String shape) {
    int offset = bin.size();
    bin.write(data.array(), 0, data.limit());
    while (bin.size() % 4 != 0) {
      bin.write(0);
    }
    int view =
        add(
            views,
            map("buffer", 0, "byteOffset", offset, "byteLength", data.limit(), "target", target));
    return add(
        accessors, map("bufferView", view, "componentType", type, "count", count, "type", shape));
  }

  private static ByteBuffer floats(float[] values) {
    ByteBuffer buffer = ByteBuffer.allocate(values.length * 4).order(ByteOrder.LITTLE_ENDIAN);
    for (float value : values) {
      buffer.putFloat(value);
    }
    return buffer;
  }

  private static ByteBuffer ints(int[] values) {
    ByteBuffer buffer = ByteBuffer.allocate(values.length * 4).order(ByteOrder.LITTLE_ENDIAN);
    for (int value : values) {
      buffer.putInt(value);
    }
    return buffer;
  }

  private static int add(List<Map<String, Object>> list, Map<String, Object> item) {
    list.add(item);
    return list.size() - 1;
  }

  private static Map<String, Object> map(Object... pairs) {
    Map<String, Object> map = new LinkedHashMap<>();
    for (int i = 0; i < pairs.length; i += 2) {
      map.put((String) pairs[i], pairs[i + 1]);
    }
    return map;
  }

  /**
   * The whole file.
   *
   * @param extras written under {@code asset.extras}, may be empty
   */
  public byte[] bytes(Map<String, Object> extras) {
    Map<String, Object> asset = map("version", "2.0");
    if (!extras.isEmpty()) {
      asset.put("extras", extras);
    }
    Map<String, Object> json = map("asset", asset, "scene", 0);
    json.put("scenes", List.of(roots.isEmpty() ? map() : map("nodes", roots)));
    putUnlessEmpty(json, "nodes", nodes);
    putUnlessEmpty(json, "meshes", meshes);
    putUnlessEmpty(json, "materials", materials);
    putUnlessEmpty(json, "textures", textures);
    putUnlessEmpty(json, "images", images);
    putUnlessEmpty(json, "accessors", accessors);
    putUnlessEmpty(json, "bufferViews", views);
    if (bin.size() > 0) {
      json.put("buffers", List.of(map("byteLength", bin.size())));
    }
    return packed(JsonMapper.shared().writeValueAsBytes(json), bin.toByteArray());
  }

  private static void putUnlessEmpty(Map<String, Object> json, String key, List<?> list) {
    if (!list.isEmpty()) {
      json.put(key, list);
    }
  }

  private static byte[] packed(byte[] json, byte[] bin) {
    int jsonLength = (json.length + 3) / 4 * 4;
    int total = 12 + 8 + jsonLength + (bin.length == 0 ? 0 : 8 + bin.length);
    ByteBuffer out = ByteBuffer.allocate(total).order(ByteOrder.LITTLE_ENDIAN);
    out.putInt(0x46546C67).putInt(2).putInt(total);
    out.putInt(jsonLength).putInt(0x4E4F534A).put(json);
    for (int i = json.length; i < jsonLength; i++) {
      out.put((byte) ' ');
    }
    if (bin.length > 0) {
      out.putInt(bin.length).putInt(0x004E4942).put(bin);
    }
    return out.array();
  }
}
