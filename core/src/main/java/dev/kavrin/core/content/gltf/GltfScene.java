package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.PartsByPath;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import tools.jackson.databind.JsonNode;

/** The node tree of a glTF document, walked once: parents before children, unique paths. */
final class GltfScene {
  private static final int DEEPEST = 200;

  /**
   * @param path labels from the root, made unique
   * @param parent path of the node above or null
   * @param mesh index, −1 for a group
   * @param world transform to world space
   * @param node its index
   * @param hidden in no scene that is shown, or switched off (KHR_node_visibility, from memory)
   */
  record Placed(
      String path, String parent, String label, int node, int mesh, Matrix world, boolean hidden) {}

  private final JsonNode json;
  private final List<Placed> placed = new ArrayList<>();
  private final PartsByPath taken = new PartsByPath();
  private final Set<Integer> visited = new HashSet<>();
  private boolean tangled;

  private GltfScene(JsonNode json) {
    this.json = json;
  }

  static GltfScene of(JsonNode json) {
    GltfScene scene = new GltfScene(json);
    JsonNode roots = json.path("scenes").path(json.path("scene").asInt(0)).path("nodes");
    if (roots.isArray()) {
      roots.forEach(n -> scene.walk(n.asInt(-1), null, Matrix.IDENTITY, 0, false));
      scene.walkOrphans(true);
    } else {
      scene.walkOrphans(false);
    }
    return scene;
  }

  private void walkOrphans(boolean hidden) {
    Set<Integer> children = new HashSet<>();
    json.path("nodes").forEach(n -> n.path("children").forEach(c -> children.add(c.asInt(-1))));
    for (int i = 0; i < json.path("nodes").size(); i++) {
      if (!children.contains(i) && !visited.contains(i)) {
        walk(i, null, Matrix.IDENTITY, 0, hidden);
      }
    }
  }

  private void walk(int index, String parent, Matrix above, int depth, boolean under) {
    JsonNode node = json.path("nodes").path(index);
    if (!node.isObject() || depth > DEEPEST || !visited.add(index)) {
      tangled = true;
      return;
    }
    int mesh = node.path("mesh").asInt(-1);
    String label =
        node.path("name")
            .asString(json.path("meshes").path(mesh).path("name").asString("node " + index));
    String path = taken.unique((parent == null ? "" : parent + "/") + label.replace('/', '∕'));
    Matrix world = above.times(Matrix.of(node));
    boolean hidden = under || !node.at("/extensions/KHR_node_visibility/visible").asBoolean(true);
    placed.add(new Placed(path, parent, label, index, mesh, world, hidden));
    node.path("children").forEach(c -> walk(c.asInt(-1), path, world, depth + 1, hidden));
  }

  List<Placed> nodes() {
    return placed;
  }

  /** True if nodes are missing, too deep, or used twice. */
  boolean isTangled() {
    return tangled;
  }
}
