package dev.kavrin.core.compare;

import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.gltf.GlbFile;
import dev.kavrin.core.content.gltf.MeshData;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;

/** Compares two files on disk by what their readers find in them. */
public final class FileComparison {
  private static final Geometry NONE = part -> null;

  private FileComparison() {}

  /**
   * @param nameA proper names; their endings choose the readers
   */
  public static Comparison of(Disk disk, Path a, String nameA, Path b, String nameB)
      throws IOException {
    HealthCheck check = new HealthCheck(disk);
    try (SeekableByteChannel inA = disk.read(a);
        SeekableByteChannel inB = disk.read(b)) {
      Inventory inventoryA = check.inspect(a, nameA).inventory();
      Inventory inventoryB = check.inspect(b, nameB).inventory();
      if (inventoryA.parts().isEmpty() && inventoryB.parts().isEmpty()) {
        return new Comparison(List.of(), ByteChange.of(inA, inB));
      }
      return Comparer.compare(inventoryA, inventoryB, geometry(inA, nameA), geometry(inB, nameB));
    }
  }

  private static Geometry geometry(SeekableByteChannel in, String name) throws IOException {
    if (!FileName.of(name).lowerExt().equals("glb")) {
      return NONE;
    }
    GlbFile file = GlbFile.open(in);
    return part -> points(file, part);
  }

  private static float[] points(GlbFile file, String part) {
    try {
      MeshData mesh = file.worldMesh(part);
      return mesh == null ? null : mesh.points();
    } catch (IOException gone) {
      throw new UncheckedIOException(gone);
    }
  }
}
