package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.LineBytes;
import dev.kavrin.core.content.LinkWriter;
import dev.kavrin.core.content.PartWriter.Opened;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Names of material libraries in OBJ files, and of pictures in those. */
public final class ObjLinks implements LinkWriter {
  @Override
  public List<Patch> patches(Opened file, Map<String, String> names) throws IOException {
    List<Patch> patches = new ArrayList<>();
    LineBytes lines = new LineBytes(Bytes.from(file.in(), 0));
    while (lines.next()) {
      int from = nameAt(lines);
      if (from >= 0) {
        String with = names.get(lines.name(from, lines.length()));
        if (with != null) {
          long at = lines.start() + from;
          int length = lines.text(from, lines.length()).length();
          patches.add(new Patch(at, at + length, with.getBytes(StandardCharsets.UTF_8)));
        }
      }
    }
    return patches;
  }

  /** Where the name in a line begins, −1 if it has none. */
  private static int nameAt(LineBytes line) {
    int from = line.word(0);
    return line.isAbout(from, "mtllib") ? line.word(from + 6) : MtlReader.nameAt(line);
  }
}
