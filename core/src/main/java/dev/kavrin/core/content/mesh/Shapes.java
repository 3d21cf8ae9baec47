package dev.kavrin.core.content.mesh;

import jakarta.annotation.Nullable;
import java.io.Closeable;
import java.io.IOException;
import java.util.List;

/** The meshes of a file in world space, one at a time. */
public interface Shapes extends Closeable {
  Shapes NONE =
      new Shapes() {
        @Override
        public List<String> parts() {
          return List.of();
        }

        @Override
        public MeshData shape(String part) {
          return null;
        }
      };

  /** Ids of the parts that have a shape and are shown, in the order of the inventory. */
  List<String> parts();

  /** Null if there is no such part or it cannot be read. */
  @Nullable
  MeshData shape(String part) throws IOException;

  /** Lets go of files that were opened for it. */
  @Override
  default void close() throws IOException {}
}
