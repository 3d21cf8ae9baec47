package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Finding.Severity;
import dev.kavrin.core.units.Words;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What a person should know of the meshes of a file, though none of it makes the file less whole:
 * one sentence for each kind of thing, however many parts it is true of.
 */
public final class MeshNotes {
  private static final int NAMED = 3;

  private final Map<String, List<String>> parts = new LinkedHashMap<>();

  void add(String words, String part) {
    parts.computeIfAbsent(words, k -> new ArrayList<>()).add(part);
  }

  /** One for each kind of thing. */
  public List<Finding> findings() {
    return parts.entrySet().stream().map(e -> note(e.getKey(), e.getValue())).toList();
  }

  private static Finding note(String words, List<String> labels) {
    String named = String.join(", ", labels.subList(0, Math.min(NAMED, labels.size())));
    int more = labels.size() - NAMED;
    return new Finding(
        words.replace(' ', '-'),
        Severity.NOTE,
        -1,
        Words.count(labels.size(), "part")
            + " "
            + words
            + ": "
            + named
            + (more > 0 ? " and " + more + " more" : "")
            + ".",
        "Compare it with the version before.");
  }
}
