package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.PartWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;

/** Parts of glTF 2.0 documents: nodes with their meshes, materials, pictures and numbers. */
public final class GltfParts implements PartWriter {
  @Override
  public List<Brought> write(Opened base, List<Wanted> wanted, OutputStream out)
      throws IOException {
    try (GlbFile into = GlbFile.open(base.in(), base.beside())) {
      GltfGraft graft = new GltfGraft(into);
      for (Wanted some : wanted) {
        try (GlbFile from = GlbFile.open(some.from().in(), some.from().beside())) {
          graft.take(from, some.parts());
        }
      }
      List<Brought> brought = new ArrayList<>(graft.brought());
      graft.write(out);
      return brought;
    }
  }
}
