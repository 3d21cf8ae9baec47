package dev.kavrin.core.content;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Names under which programs open what lies under an ending of nobody's. */
class FormatsTest {
  @TempDir Path folder;

  /**
   * First bytes as published: glTF 2.0 (ISO/IEC 12113, 4.4.2), PNG (ISO/IEC 15948, 5.2), HDF5 file
   * format III.A, PLY and ZIP (APPNOTE 4.3.7) from memory.
   */
  @ParameterizedTest
  @CsvSource({
    "bell.glb~, glTF\\x02\\x00\\x00\\x00, bell.glb",
    "bell.glb1, glTF\\x02\\x00\\x00\\x00, bell.glb",
    "bell.glb.old, glTF\\x02\\x00\\x00\\x00, bell.glb",
    "bell.tmp, glTF\\x02\\x00\\x00\\x00, bell.glb",
    "bell, \\x89PNG\\r\\n\\x1A\\n, bell.png",
    "step-40.part, \\x89HDF\\r\\n\\x1A\\n, step-40.h5",
    "scan.bak, ply\\n, scan.ply",
    "bell.glb, ply\\n, bell.glb",
    "site.own, PK\\x03\\x04, site.own",
    "notes.own, plain words, notes.own",
    "empty.own, '', empty.own"
  })
  void anEndingNobodyKnowsGivesWayToTheOneItsContentHas(String name, String head, String openable)
      throws IOException {
    Path file = folder.resolve("file");
    Files.write(file, bytes(head));
    try (FileChannel in = FileChannel.open(file)) {
      assertThat(Formats.openable(in, name)).isEqualTo(openable);
    }
  }

  private static byte[] bytes(String escaped) {
    String plain = escaped.replace("\\r", "\r").replace("\\n", "\n");
    StringBuilder out = new StringBuilder();
    for (int i = 0; i < plain.length(); i++) {
      if (plain.startsWith("\\x", i)) {
        out.append((char) Integer.parseInt(plain.substring(i + 2, i + 4), 16));
        i += 3;
      } else {
        out.append(plain.charAt(i));
      }
    }
    return out.toString().getBytes(StandardCharsets.ISO_8859_1);
  }
}
