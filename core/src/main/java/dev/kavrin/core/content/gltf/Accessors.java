package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Format;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import tools.jackson.databind.JsonNode;

/** Typed views into the buffers (glTF 2.0, section 3.6), every bound checked before use. */
final class Accessors {
  private static final Map<String, Integer> COMPONENTS =
      Map.of("SCALAR", 1, "VEC2", 2, "VEC3", 3, "VEC4", 4, "MAT2", 4, "MAT3", 9, "MAT4", 16);
  private static final int FLOAT = 5126;
  private static final int MOST_ELEMENTS = 12_000_000;

  private final JsonNode json;
  private final Buffers buffers;

  Accessors(JsonNode json, Buffers buffers) {
    this.json = json;
    this.buffers = buffers;
  }

  /** Elements one after another in a buffer. */
  private record View(
      int buffer,
      long offset,
      int stride,
      int components,
      int type,
      int count,
      boolean normalized) {
    long end() {
      return count == 0 ? offset : offset + (long) stride * (count - 1) + elementSize();
    }

    int elementSize() {
      return components * componentSize(type);
    }
  }

  /** Checks every view and accessor against the buffer it lies in. */
  void check(GlbContainer container, List<Finding> findings) {
    long declared = json.path("buffers").path(0).path("byteLength").asLong(0);
    boolean own = container.isBinary() && !json.path("buffers").path(0).has("uri");
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
    long viewEnd = view.path("byteOffset").asLong(0) + view.path("byteLength").asLong(0);
    if (range == null || !view.isObject() || range.end() > viewEnd) {
      findings.add(
          Finding.damaged(
              "accessor-bounds",
              range == null ? -1 : buffers.offset(range.buffer(), range.offset()),
              "Data block " + index + " reaches out of its data view."));
    }
  }

  private View view(JsonNode accessor) {
    Integer components = COMPONENTS.get(accessor.path("type").asString(""));
    return components == null
        ? null
        : view(
            accessor,
            components,
            accessor.path("componentType").asInt(0),
            accessor.path("count").asLong(-1));
  }

  private View view(JsonNode where, int components, int type, long count) {
    JsonNode view = json.path("bufferViews").path(where.path("bufferView").asInt(-1));
    int size = componentSize(type);
    long at = where.path("byteOffset").asLong(0);
    long from = view.path("byteOffset").asLong(0);
    if (size == 0 || count < 0 || at < 0 || from < 0 || count > Integer.MAX_VALUE) {
      return null;
    }
    int element = components * size;
    int stride = Math.max(element, view.path("byteStride").asInt(element));
    return new View(
        view.path("buffer").asInt(-1),
        from + at,
        stride,
        components,
        type,
        (int) count,
        where.path("normalized").asBoolean(false));
  }

  private static int componentSize(int type) {
    return switch (type) {
      case 5120, 5121 -> 1;
      case 5122, 5123 -> 2;
      case 5125, FLOAT -> 4;
      default -> 0;
    };
  }

  /** Numbers of an accessor one after another; null if they are not all there. */
  float[] floats(int index) throws IOException {
    JsonNode accessor = json.path("accessors").path(index);
    View range = accessor.isObject() ? view(accessor) : null;
    if (range == null || range.count() > MOST_ELEMENTS) {
      return null;
    }
    float[] out = new float[range.count() * range.components()];
    if (accessor.has("bufferView")) {
      if (!isThere(range)) {
        return null;
      }
      each(
          range,
          (buffer, at, i) -> out[i] = (float) scaled(buffer, at, range.type(), range.normalized()));
    }
    return !accessor.has("sparse") || replaced(accessor, range, out) ? out : null;
  }

  /** Puts other numbers in some places (section 3.6.2.3); false if they are not all there. */
  private boolean replaced(JsonNode accessor, View whole, float[] out) throws IOException {
    JsonNode sparse = accessor.path("sparse");
    long count = sparse.path("count").asLong(-1);
    JsonNode places = sparse.path("indices");
    View where = view(places, 1, places.path("componentType").asInt(0), count);
    View what = view(sparse.path("values"), whole.components(), whole.type(), count);
    if (where == null || what == null || !isThere(where) || !isThere(what)) {
      return false;
    }
    int[] elements = new int[where.count()];
    each(where, (buffer, at, i) -> elements[i] = (int) component(buffer, at, where.type()));
    for (int element : elements) {
      if (element < 0 || element >= whole.count()) {
        return false;
      }
    }
    each(
        what,
        (buffer, at, i) ->
            out[elements[i / whole.components()] * whole.components() + i % whole.components()] =
                (float) scaled(buffer, at, what.type(), whole.normalized()));
    return true;
  }

  /** Whole numbers of an accessor; null if they are not all there. */
  int[] ints(int index) throws IOException {
    JsonNode accessor = json.path("accessors").path(index);
    View range = accessor.isObject() && accessor.has("bufferView") ? view(accessor) : null;
    if (range == null || range.type() == FLOAT || !isThere(range)) {
      return null;
    }
    int[] out = new int[range.count() * range.components()];
    each(range, (buffer, at, i) -> out[i] = (int) component(buffer, at, range.type()));
    return out;
  }

  private boolean isThere(View range) {
    return range.count() <= MOST_ELEMENTS
        && buffers.has(range.buffer(), range.offset(), range.end());
  }

  private interface Each {
    void number(ByteBuffer buffer, int at, int index);
  }

  private void each(View range, Each action) throws IOException {
    int perRead = Math.max(1, (1 << 20) / range.stride());
    int size = componentSize(range.type());
    for (int done = 0; done < range.count(); done += perRead) {
      int n = Math.min(perRead, range.count() - done);
      int bytes = (n - 1) * range.stride() + range.elementSize();
      ByteBuffer buffer =
          buffers.bytes(range.buffer(), range.offset() + (long) done * range.stride(), bytes);
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

  /** Where the numbers of an accessor stand in the file; empty if they are not all there. */
  Optional<Format.Dense> stretch(int index) {
    JsonNode accessor = json.path("accessors").path(index);
    View range = accessor.has("bufferView") ? view(accessor) : null;
    if (range == null || !isThere(range)) {
      return Optional.empty();
    }
    int between = range.stride() - range.elementSize();
    return Optional.of(
        new Format.Dense(
            buffers.offset(range.buffer(), range.offset()),
            buffers.offset(range.buffer(), range.end()),
            Format.Dense.SHAPES + between));
  }

  /** Bytes of a data view, null if they are not all there. */
  byte[] viewBytes(int index, int most) throws IOException {
    JsonNode view = json.path("bufferViews").path(index);
    int buffer = view.path("buffer").asInt(-1);
    long from = view.path("byteOffset").asLong(0);
    long length = view.path("byteLength").asLong(-1);
    return length >= 0 && length <= most && buffers.has(buffer, from, from + length)
        ? buffers.bytes(buffer, from, (int) length).array()
        : null;
  }
}
