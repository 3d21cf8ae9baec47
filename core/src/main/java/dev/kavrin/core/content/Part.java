package dev.kavrin.core.content;

import java.util.Map;
import java.util.Set;

/**
 * A named thing inside a file.
 *
 * @param id path of labels from the root, unique in its inventory
 * @param parent id of the part above, or null
 * @param label name as the file has it
 * @param kind "mesh", "group", "picture" …
 * @param measures by name, in a fixed order
 * @param bounds in world space, null without geometry
 * @param exact digest of the geometry in local space, null without geometry
 * @param placing digest of where it stands (its world transform)
 * @param surface digest of its material
 * @param readable false if the bytes it needs are not there
 */
public record Part(
    String id,
    String parent,
    String label,
    String kind,
    Map<String, Measure> measures,
    Box bounds,
    String exact,
    String placing,
    String surface,
    boolean readable) {

  private static final Set<String> COUNTED =
      Set.of("mesh", "layer", "field", "setting", "entry", "table", "shape");

  /** A part that stands nowhere in space. */
  public static Part of(
      String id, String parent, String label, String kind, Map<String, Measure> m, String exact) {
    return new Part(id, parent, label, kind, m, null, exact, null, null, true);
  }

  /** The same inside another thing, as a file packed into an archive. */
  public Part under(String above) {
    return new Part(
        above + "/" + id,
        parent == null ? above : above + "/" + parent,
        label,
        kind,
        measures,
        bounds,
        exact,
        placing,
        surface,
        readable);
  }

  /** True for what a person would count; groups and pictures are not. */
  public boolean isCounted() {
    return COUNTED.contains(kind);
  }

  public double measure(String name) {
    Measure m = measures.get(name);
    return m == null ? 0 : m.value();
  }
}
