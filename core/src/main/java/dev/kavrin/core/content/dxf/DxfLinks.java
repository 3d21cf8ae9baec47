package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.LineBytes;
import dev.kavrin.core.content.LinkWriter;
import dev.kavrin.core.content.PartWriter.Opened;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Names of pictures and of other drawings: group code 1 of what defines them. */
public final class DxfLinks implements LinkWriter {
  private static final Set<String> NAMING = Set.of("IMAGEDEF", "BLOCK", "LAYER");

  @Override
  public List<Patch> patches(Opened file, Map<String, String> names) throws IOException {
    List<Patch> patches = new ArrayList<>();
    LineBytes lines = new LineBytes(Bytes.from(file.in(), 0));
    String type = "";
    boolean named = false;
    while (lines.next()) {
      String code = lines.text();
      if (!lines.next()) {
        break;
      }
      String value = lines.text();
      if (code.equals("0")) {
        type = value;
        named = false;
      } else if (code.equals("1") && NAMING.contains(type) && !named) {
        named = true;
        String with = names.get(value.replace('\\', '/'));
        if (with != null) {
          long at = lines.start() + lines.word(0);
          String slashed = value.contains("\\") ? with.replace('/', '\\') : with;
          patches.add(new Patch(at, at + value.length(), slashed.getBytes(StandardCharsets.UTF_8)));
        }
      }
    }
    return patches;
  }
}
