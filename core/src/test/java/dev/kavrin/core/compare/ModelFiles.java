package dev.kavrin.core.compare;

import dev.kavrin.core.content.mesh.MeshData;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Locale;
import java.util.Map;

/** Writes meshes as published layouts say, without a line of the product's own writers. */
final class ModelFiles {
  private ModelFiles() {}

  /** Wavefront text form: all points, then faces by numbers from 1. */
  static byte[] obj(Map<String, MeshData> parts, int decimals) {
    StringBuilder text = new StringBuilder("mtllib track.mtl\n");
    int before = 1;
    for (Map.Entry<String, MeshData> part : parts.entrySet()) {
      text.append("o ").append(part.getKey()).append('\n');
      MeshData mesh = part.getValue();
      for (int v = 0; v < mesh.vertices(); v++) {
        text.append("v ").append(point(mesh, v, decimals)).append('\n');
      }
      for (int t = 0; t < mesh.corners().length; t += 3) {
        text.append("f");
        for (int k = 0; k < 3; k++) {
          text.append(' ').append(before + mesh.corners()[t + k]);
        }
        text.append('\n');
      }
      before += mesh.vertices();
    }
    return text.toString().getBytes(StandardCharsets.US_ASCII);
  }

  private static String point(MeshData mesh, int vertex, int decimals) {
    StringBuilder text = new StringBuilder();
    for (int k = 0; k < 3; k++) {
      text.append(k == 0 ? "" : " ")
          .append(String.format(Locale.ROOT, "%." + decimals + "f", mesh.points()[vertex * 3 + k]));
    }
    return text.toString();
  }

  static byte[] stl(MeshData mesh) {
    ByteBuffer out = ByteBuffer.allocate(84 + 50 * mesh.triangles()).order(ByteOrder.LITTLE_ENDIAN);
    out.position(80);
    out.putInt(mesh.triangles());
    for (int t = 0; t < mesh.corners().length; t += 3) {
      out.putFloat(0).putFloat(0).putFloat(0);
      for (int k = 0; k < 3; k++) {
        for (int axis = 0; axis < 3; axis++) {
          out.putFloat(mesh.points()[mesh.corners()[t + k] * 3 + axis]);
        }
      }
      out.putShort((short) 0);
    }
    return out.array();
  }

  static byte[] stlText(Map<String, MeshData> parts, int decimals) {
    StringBuilder text = new StringBuilder();
    parts.forEach(
        (name, mesh) -> {
          text.append("solid ").append(name).append('\n');
          for (int t = 0; t < mesh.corners().length; t += 3) {
            text.append("facet normal 0 0 0\nouter loop\n");
            for (int k = 0; k < 3; k++) {
              text.append("vertex ").append(point(mesh, mesh.corners()[t + k], decimals));
              text.append('\n');
            }
            text.append("endloop\nendfacet\n");
          }
          text.append("endsolid ").append(name).append('\n');
        });
    return text.toString().getBytes(StandardCharsets.US_ASCII);
  }

  private static String plyHead(String form, MeshData mesh) {
    return "ply\nformat "
        + form
        + " 1.0\nelement vertex "
        + mesh.vertices()
        + "\nproperty float x\nproperty float y\nproperty float z\nelement face "
        + mesh.triangles()
        + "\nproperty list uchar int vertex_indices\nend_header\n";
  }

  static byte[] ply(MeshData mesh, ByteOrder order) {
    String form = order == ByteOrder.BIG_ENDIAN ? "binary_big_endian" : "binary_little_endian";
    byte[] head = plyHead(form, mesh).getBytes(StandardCharsets.US_ASCII);
    ByteBuffer out =
        ByteBuffer.allocate(head.length + mesh.vertices() * 12 + mesh.triangles() * 13);
    out.put(head).order(order);
    for (float value : mesh.points()) {
      out.putFloat(value);
    }
    for (int i = 0; i < mesh.corners().length; i++) {
      if (i % 3 == 0) {
        out.put((byte) 3);
      }
      out.putInt(mesh.corners()[i]);
    }
    return out.array();
  }

  static byte[] plyText(MeshData mesh, int decimals) {
    StringBuilder text = new StringBuilder(plyHead("ascii", mesh));
    for (int v = 0; v < mesh.vertices(); v++) {
      text.append(point(mesh, v, decimals)).append('\n');
    }
    for (int t = 0; t < mesh.corners().length; t += 3) {
      text.append("3 ").append(mesh.corners()[t]).append(' ').append(mesh.corners()[t + 1]);
      text.append(' ').append(mesh.corners()[t + 2]).append('\n');
    }
    return text.toString().getBytes(StandardCharsets.US_ASCII);
  }

  /** Points and corners one behind the other, as the buffer of {@link #gltf}. */
  static byte[] buffer(MeshData mesh) {
    ByteBuffer out =
        ByteBuffer.allocate(mesh.points().length * 4 + mesh.corners().length * 4)
            .order(ByteOrder.LITTLE_ENDIAN);
    out.asFloatBuffer().put(mesh.points());
    out.position(mesh.points().length * 4);
    out.asIntBuffer().put(mesh.corners());
    return out.array();
  }

  static String dataUri(byte[] buffer) {
    return "data:application/octet-stream;base64," + Base64.getEncoder().encodeToString(buffer);
  }

  /** glTF 2.0 as text; {@code uri} names the buffer, {@code more} goes into the node. */
  static byte[] gltf(String name, MeshData mesh, String uri, String more) {
    int points = mesh.points().length * 4;
    int corners = mesh.corners().length * 4;
    return """
    {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],
     "nodes":[{"name":"%s","mesh":0%s}],
     "meshes":[{"primitives":[{"attributes":{"POSITION":0},"indices":1}]}],
     "buffers":[{"uri":"%s","byteLength":%d}],
     "bufferViews":[{"buffer":0,"byteLength":%d},{"buffer":0,"byteOffset":%d,"byteLength":%d}],
     "accessors":[{"bufferView":0,"componentType":5126,"count":%d,"type":"VEC3"},
                  {"bufferView":1,"componentType":5125,"count":%d,"type":"SCALAR"}]}
    """
        .formatted(
            name,
            more,
            uri,
            points + corners,
            points,
            points,
            corners,
            mesh.vertices(),
            mesh.corners().length)
        .getBytes(StandardCharsets.UTF_8);
  }
}
