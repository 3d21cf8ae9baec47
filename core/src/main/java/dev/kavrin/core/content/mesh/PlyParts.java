package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.PartWriter;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.List;

/** The one mesh of a PLY file, with all its properties. */
public final class PlyParts implements PartWriter {
  @Override
  public List<Brought> write(Opened base, List<Wanted> wanted, OutputStream out)
      throws IOException {
    List<Wanted> some = wanted.stream().filter(w -> !w.parts().isEmpty()).toList();
    if (some.size() != 1 || some.get(0).parts().size() != 1) {
      throw new CannotTake("A PLY file holds one mesh, so it can be taken from one version only.");
    }
    String part = some.get(0).parts().get(0);
    Opened from = some.get(0).from();
    if (new PlyReader()
        .read(from.in(), from.beside()).inventory().parts().stream()
            .noneMatch(p -> p.id().equals(part))) {
      throw new CannotTake(part + " is not in that version.");
    }
    try (InputStream mesh = Bytes.from(from.in(), 0)) {
      mesh.transferTo(out);
    }
    return List.of(
        new Brought(
            part, part, true, List.of(), List.of("the file holds this mesh alone, with its head")));
  }
}
