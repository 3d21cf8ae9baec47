package dev.kavrin.core.content.mesh;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.LineBytes;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.PartsByPath;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/**
 * Material libraries of OBJ files: their parts are the materials, their links the pictures those
 * use. Common practice; the format has no published standard.
 */
public final class MtlReader implements ContentReader {
  /** How many words follow an option of a picture statement. */
  private static final Map<String, Integer> OPTIONS =
      Map.ofEntries(
          Map.entry("-blendu", 1),
          Map.entry("-blendv", 1),
          Map.entry("-boost", 1),
          Map.entry("-bm", 1),
          Map.entry("-cc", 1),
          Map.entry("-clamp", 1),
          Map.entry("-imfchan", 1),
          Map.entry("-texres", 1),
          Map.entry("-type", 1),
          Map.entry("-mm", 2),
          Map.entry("-o", 3),
          Map.entry("-s", 3),
          Map.entry("-t", 3));

  @Override
  public boolean reads(String ext) {
    return ext.equals("mtl");
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Readings readings = new Readings("materials");
    if (in.size() == 0) {
      return readings.empty();
    }
    LineBytes lines = new LineBytes(Bytes.from(in, 0));
    PartsByPath taken = new PartsByPath();
    Set<String> named = new HashSet<>();
    String open = null;
    ContentHash content = new ContentHash();
    while (lines.next()) {
      if (lines.hasZeros()) {
        readings.found(
            Finding.damaged("zeros", -1, "Line " + lines.number() + " holds zero bytes."));
        break;
      }
      int from = lines.word(0);
      if (lines.isAbout(from, "newmtl")) {
        close(readings, open, content);
        content = new ContentHash();
        open = taken.unique(lines.name(from + 6, lines.length()));
      } else if (from < lines.length() && lines.bytes()[from] != '#') {
        content.add(lines.bytes(), from, lines.text().length());
      }
      int name = nameAt(lines);
      if (name >= 0 && named.add(lines.name(name, lines.length()))) {
        readings.link(new Link(lines.name(name, lines.length()), "picture"));
      }
    }
    close(readings, open, content);
    return readings.done();
  }

  private static void close(Readings readings, String open, ContentHash content) {
    if (open != null) {
      readings.part(Part.of(open, null, open, "material", Map.of(), content.id().toString()));
    }
  }

  /** Where the name of a picture begins in a line, behind its options; −1 if it has none. */
  static int nameAt(LineBytes line) {
    int from = line.word(0);
    int end = line.space(from);
    String word = line.text(from, end);
    boolean isPicture =
        word.startsWith("map_") || Set.of("bump", "disp", "decal", "refl", "norm").contains(word);
    if (!isPicture) {
      return -1;
    }
    int at = line.word(end);
    while (at < line.length() && line.bytes()[at] == '-') {
      Integer words = OPTIONS.get(line.text(at, line.space(at)));
      if (words == null) {
        break;
      }
      at = line.word(line.space(at));
      for (int i = 0; i < words && (i == 0 || isNumber(line, at)); i++) {
        at = line.word(line.space(at));
      }
    }
    return at < line.length() ? at : -1;
  }

  private static boolean isNumber(LineBytes line, int at) {
    return line.text(at, line.space(at)).matches("[-+]?[0-9.]+([eE][-+]?[0-9]+)?");
  }
}
