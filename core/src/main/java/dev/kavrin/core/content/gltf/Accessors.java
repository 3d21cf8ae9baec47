package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/** Typed views into the data chunk (glTF 2.0, section 3.6), every bound checked before use. */
final class Accessors {
  private static final Map<String, Integer> COMPONENTS =
      Map.of("SCALAR", 1, "VEC2", 2, "VEC3", 3, "VEC4", 4, "MAT2", 4, "MAT3", 9, "MAT4", 16);
  private static final int FLOAT = 5126;
  private static final int MOST_ELEMENTS = 12_000_000;

  private final JsonNode json;
  private final GlbContainer container;
  private final SeekableByteChannel in;

  Accessors(JsonNode json, GlbContainer container, SeekableByteChannel in) {
    this.json = json;
    this.container = container;
    this.in = in;
  }

  private record View(long offset, int stride, int size, int components, int type, int count) {
    long end() {
      return count == 0 ? offset : offset + (long) stride * (count - 1) + size;
    }
  }

  /** Checks every buffer, view and accessor against the one it lies in. */
  void check(List<Finding> findings) {
    long declared = json.path("buffers").path(0).path("byteLength").asLong(0);
    boolean own = !json.path("buffers").path(0).has("uri");
    if (own && declared > container.binDeclared()) {
      findings.add(
          Finding.damaged(
              "buffer-length",
              container.binOffset(),
              "Its buffer should have "
                  + declared
                  + " bytes, the data chunk declares "
                  + container.binDeclared()
                  + "."));
    }
    JsonNode views = json.path("bufferViews");
    for (int i = 0; i < views.size(); i++) {
      JsonNode buffer = json.path("buffers").path(views.path(i).path("buffer").asInt(-1));
      long end =
          views.path(i).path("byteOffset").asLong(0) + views.path(i).path("byteLength").asLong(0);
      if (!buffer.isObject() || end > buffer.path("byteLength").asLong(0)) {
        findings.add(Finding.damaged("view-bounds", -1, "Data view " + i + " leaves its buffer."));
      }
    }
    for (int i = 0; i < json.path("accessors").size(); i++) {
      checkAccessor(i, findings);
    }
  }

  private void checkAccessor(int index, List<Finding> findings) {
    JsonNode accessor = json.path("accessors").path(index);
    if (!accessor.has("bufferView")) {
      return;
    }
    JsonNode view = json.path("bufferViews").path(accessor.path("bufferView").asInt(-1));
    View range = view(accessor);
    long viewEnd =
        container.binOffset()
            + view.path("byteOffset").asLong(0)
            + view.path("byteLength").asLong(0);
    if (range == null || !view.isObject() || range.end() > viewEnd) {
      findings.add(
          Finding.damaged(
              "accessor-bounds",
              range == null ? -1 : range.offset(),
              "Data block " + index + " reaches out of its data view."));
    }
  }

  private View view(JsonNode accessor) {
    JsonNode view = json.path("bufferViews").path(accessor.path("bufferView").asInt(-1));
    Integer components = COMPONENTS.get(accessor.path("type").asString(""));
    int type = accessor.path("componentType").asInt(0);
    int size = componentSize(type);
    long count = accessor.path("count").asLong(-1);
    long at = accessor.path("byteOffset").asLong(0);
    long from = view.path("byteOffset").asLong(0);
    if (components == null
        || size == 0
        || count < 0
        || at < 0
        || from < 0
        || count > Integer.MAX_VALUE) {
      return null;
    }
    int element = components * size;
    int stride = Math.max(element, view.path("byteStride").asInt(element));
    return new View(
        container.binOffset() + from + at, stride, element, components, type, (int) count);
  }

  private static int componentSize(int type) {
    return switch (type) {
      case 5120, 5121 -> 1;
      case 5122, 5123 -> 2;
      case 5125, FLOAT -> 4;
      default -> 0;
    };
  }

  /** Numbers of an accessor one after another; null if they are not all in the file. */
  float[] floats(int index) throws IOException {
    JsonNode accessor = json.path("accessors").path(index);
    View range = readable(accessor);
    if (range == null) {
      return null;
    }
    boolean normalized = accessor.path("normalized").asBoolean(false);
    float[] out = new float[range.count() * range.components()];
    each(range, (buffer, at, i) -> out[i] = (float) scaled(buffer, at, range.type(), normalized));
    return out;
  }

  /** Whole numbers of an accessor; null if they are not all in the file. */
  int[] ints(int index) throws IOException {
    View range = readable(json.path("accessors").path(index));
    if (range == null || range.type() == FLOAT) {
      return null;
    }
    int[] out = new int[range.count() * range.components()];
    each(range, (buffer, at, i) -> out[i] = (int) component(buffer, at, range.type()));
    return out;
  }

  private View readable(JsonNode accessor) {
    if (!accessor.isObject() || !accessor.has("bufferView") || usesOtherFile(accessor)) {
      return null;
    }
    View range = view(accessor);
    boolean there =
        range != null
            && container.binOffset() >= 0
            && range.count() <= MOST_ELEMENTS
            && range.end() <= container.binOffset() + container.binPresent();
    return there ? range : null;
  }

  private boolean usesOtherFile(JsonNode accessor) {
    JsonNode view = json.path("bufferViews").path(accessor.path("bufferView").asInt(-1));
    return json.path("buffers").path(view.path("buffer").asInt(-1)).has("uri");
  }

  private interface Each {
    void number(ByteBuffer buffer, int at, int index);
  }

  private void each(View range, Each action) throws IOException {
    int perRead = Math.max(1, (1 << 20) / range.stride());
    int size = componentSize(range.type());
    for (int done = 0; done < range.count(); done += perRead) {
      int n = Math.min(perRead, range.count() - done);
      int bytes = (n - 1) * range.stride() + range.size();
      ByteBuffer buffer = Bytes.at(in, range.offset() + (long) done * range.stride(), bytes);
      for (int e = 0; e < n; e++) {
        for (int c = 0; c < range.components(); c++) {
          action.number(buffer, e * range.stride() + c * size, (done + e) * range.components() + c);
        }
      }
    }
  }

  private static double component(ByteBuffer b, int at, int type) {
    return switch (type) {
      case 5120 -> b.get(at);
      case 5121 -> Byte.toUnsignedInt(b.get(at));
      case 5122 -> b.getShort(at);
      case 5123 -> Short.toUnsignedInt(b.getShort(at));
      case 5125 -> Integer.toUnsignedLong(b.getInt(at));
      default -> b.getFloat(at);
    };
  }

  private static double scaled(ByteBuffer b, int at, int type, boolean normalized) {
    double value = component(b, at, type);
    if (!normalized) {
      return value;
    }
    return switch (type) {
      case 5120 -> Math.max(value / 127, -1);
      case 5121 -> value / 255;
      case 5122 -> Math.max(value / 32767, -1);
      case 5123 -> value / 65535;
      default -> value;
    };
  }

  /** Bytes of a data view, null if they are not all in the file. */
  byte[] viewBytes(int index, int most) throws IOException {
    JsonNode view = json.path("bufferViews").path(index);
    long offset = container.binOffset() + view.path("byteOffset").asLong(0);
    long length = view.path("byteLength").asLong(-1);
    boolean there =
        length >= 0
            && length <= most
            && container.binOffset() >= 0
            && offset + length <= container.binOffset() + container.binPresent();
    return there ? Bytes.at(in, offset, (int) length).array() : null;
  }
}
