package dev.kavrin.core.export;

import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.PartWriter.Opened;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.content.mesh.Shapes;
import dev.kavrin.core.health.Readers;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Map;

/** Shapes of models, where they stand in the scene. */
enum ModelExport implements Export {
  /** Binary glTF 2.0 (ISO/IEC 12113). */
  GLB("glb", "glTF 2.0, binary", "materials, pictures, groups and movement") {
    @Override
    void write(Shapes shapes, OutputStream out) throws IOException {
      GlbWriter writer = new GlbWriter();
      long points = 0;
      for (String part : shapes.parts()) {
        MeshData mesh = shape(shapes, part);
        points += mesh.points().length + mesh.corners().length;
        if (points > LARGEST) {
          throw new CannotTake("It is too large to be written as glTF in one piece.");
        }
        writer.mesh(part, -1, mesh, null, null, -1);
      }
      out.write(writer.bytes(Map.of()));
    }
  },

  /** Common practice; the format has no published standard. */
  OBJ("obj", "OBJ", "materials, pictures, groups and movement") {
    @Override
    void write(Shapes shapes, OutputStream out) throws IOException {
      int before = 1;
      for (String part : shapes.parts()) {
        MeshData mesh = shape(shapes, part);
        StringBuilder text =
            new StringBuilder("o ").append(part.replaceAll("\\R", " ")).append('\n');
        for (int i = 0; i < mesh.points().length; i += 3) {
          text.append("v ").append(mesh.points()[i]);
          text.append(' ').append(mesh.points()[i + 1]);
          text.append(' ').append(mesh.points()[i + 2]).append('\n');
          flush(text, out);
        }
        for (int i = 0; i < mesh.corners().length; i += 3) {
          text.append("f ").append(mesh.corners()[i] + before);
          text.append(' ').append(mesh.corners()[i + 1] + before);
          text.append(' ').append(mesh.corners()[i + 2] + before).append('\n');
          flush(text, out);
        }
        out.write(text.toString().getBytes(StandardCharsets.UTF_8));
        before += mesh.vertices();
      }
    }

    private void flush(StringBuilder text, OutputStream out) throws IOException {
      if (text.length() > BLOCK) {
        out.write(text.toString().getBytes(StandardCharsets.UTF_8));
        text.setLength(0);
      }
    }
  },

  /** Binary, little-endian; common practice. */
  PLY("ply", "PLY", "materials, pictures, groups and movement; all parts become one mesh") {
    @Override
    void write(Shapes shapes, OutputStream out) throws IOException {
      long points = 0;
      long faces = 0;
      for (String part : shapes.parts()) {
        MeshData mesh = shape(shapes, part);
        points += mesh.vertices();
        faces += mesh.triangles();
      }
      String head =
          "ply\nformat binary_little_endian 1.0\nelement vertex "
              + points
              + "\nproperty float x\nproperty float y\nproperty float z\nelement face "
              + faces
              + "\nproperty list uchar int vertex_indices\nend_header\n";
      out.write(head.getBytes(StandardCharsets.US_ASCII));
      for (String part : shapes.parts()) {
        MeshData mesh = shape(shapes, part);
        ByteBuffer bytes = room(mesh.points().length * Float.BYTES);
        bytes.asFloatBuffer().put(mesh.points());
        out.write(bytes.array());
      }
      int before = 0;
      for (String part : shapes.parts()) {
        MeshData mesh = shape(shapes, part);
        ByteBuffer bytes = room(mesh.triangles() * 13);
        for (int i = 0; i < mesh.corners().length; i += 3) {
          bytes.put((byte) 3);
          for (int k = 0; k < 3; k++) {
            bytes.putInt(mesh.corners()[i + k] + before);
          }
        }
        out.write(bytes.array());
        before += mesh.vertices();
      }
    }
  },

  /** Binary; common practice. */
  STL(
      "stl",
      "STL",
      "materials, pictures, names, groups and movement; all parts become one mesh of single"
          + " triangles") {
    @Override
    void write(Shapes shapes, OutputStream out) throws IOException {
      int faces = 0;
      for (String part : shapes.parts()) {
        faces += shape(shapes, part).triangles();
      }
      ByteBuffer head = room(84);
      head.put("Written by Kavrin".getBytes(StandardCharsets.US_ASCII)).putInt(80, faces);
      out.write(head.array());
      for (String part : shapes.parts()) {
        MeshData mesh = shape(shapes, part);
        ByteBuffer bytes = room(mesh.triangles() * 50);
        for (int i = 0; i < mesh.corners().length; i += 3) {
          normal(mesh, i, bytes);
          for (int k = 0; k < 3; k++) {
            int at = mesh.corners()[i + k] * 3;
            for (int axis = 0; axis < 3; axis++) {
              bytes.putFloat(mesh.points()[at + axis]);
            }
          }
          bytes.putShort((short) 0);
        }
        out.write(bytes.array());
      }
    }

    private void normal(MeshData mesh, int triangle, ByteBuffer bytes) {
      float[] p = mesh.points();
      int a = mesh.corners()[triangle] * 3;
      int b = mesh.corners()[triangle + 1] * 3;
      int c = mesh.corners()[triangle + 2] * 3;
      double[] u = {
        p[b] - (double) p[a], p[b + 1] - (double) p[a + 1], p[b + 2] - (double) p[a + 2]
      };
      double[] v = {
        p[c] - (double) p[a], p[c + 1] - (double) p[a + 1], p[c + 2] - (double) p[a + 2]
      };
      double[] n = {
        u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]
      };
      double length = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
      for (double axis : n) {
        bytes.putFloat((float) (length == 0 ? 0 : axis / length));
      }
    }
  };

  private static final long LARGEST = 30_000_000;
  private static final int BLOCK = 1 << 16;

  private final Format format;

  ModelExport(String ending, String name, String loses) {
    this.format = new Format(ending, name, loses);
  }

  @Override
  public Format format() {
    return format;
  }

  @Override
  public boolean takes(String name) {
    return Readers.hasShapes(name);
  }

  @Override
  public void write(Opened from, OutputStream out) throws IOException {
    try (Shapes shapes = Readers.shapes(from.in(), from.name(), from.beside())) {
      if (shapes.parts().isEmpty()) {
        throw new CannotTake("There is no shape in it that could be written.");
      }
      write(shapes, out);
    }
  }

  abstract void write(Shapes shapes, OutputStream out) throws IOException;

  private static MeshData shape(Shapes shapes, String part) throws IOException {
    MeshData mesh = shapes.shape(part);
    if (mesh == null) {
      throw new CannotTake(part + " cannot be read.");
    }
    return mesh;
  }

  private static ByteBuffer room(int bytes) {
    return ByteBuffer.allocate(bytes).order(ByteOrder.LITTLE_ENDIAN);
  }
}
