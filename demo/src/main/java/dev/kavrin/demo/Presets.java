package dev.kavrin.demo;

import dev.kavrin.core.profile.OwnFiles;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.Map;
import java.util.TreeMap;

/** How the modeller stands on the screen, and its tools as their people set them. */
final class Presets {
  /** As seen from a project beside {@code tools}. */
  static final OwnFiles FILES = OwnFiles.of("../tools/modeller/*", "*.layout", "*.preset");

  private static final Map<String, String> TEXTS =
      new TreeMap<>(
          Map.of(
              "evening.layout", "left = parts 260\nright = views 2x2\nbelow = log 90\n",
              "brushes/rust.preset", "radius = 4\ngrain = 0.35\ncolour = 8C2F26\n",
              "brushes/brass.preset", "radius = 2\ngrain = 0.10\ncolour = B98F3C\n",
              "rivets.preset", "spacing = 0.12\nhead = 0.018\n"));

  private Presets() {}

  /**
   * @param tools folder beside the projects
   */
  static void write(Path tools, Instant when) throws IOException {
    for (Map.Entry<String, String> text : TEXTS.entrySet()) {
      Path file = tools.resolve("modeller/5.1").resolve(text.getKey());
      Files.createDirectories(file.getParent());
      Files.writeString(file, text.getValue());
      Files.setLastModifiedTime(file, FileTime.from(when));
    }
  }
}
