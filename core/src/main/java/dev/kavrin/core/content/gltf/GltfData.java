package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.PartWriter.CannotTake;
import java.io.ByteArrayOutputStream;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Numbers added to a document: behind its data chunk if it has one or may get one, else in a buffer
 * of their own.
 */
final class GltfData {
  /** Beyond that a person takes the whole state. */
  private static final int MOST_ADDED = 150_000_000;

  private final ObjectNode json;
  private final boolean behind;
  private final long before;
  private final ByteArrayOutputStream added = new ByteArrayOutputStream();
  private int buffer = -1;

  GltfData(ObjectNode json, boolean binary) {
    this.json = json;
    boolean has = json.path("buffers").size() > 0;
    this.behind = binary && (!has || !json.path("buffers").path(0).has("uri"));
    this.before = has && behind ? json.path("buffers").path(0).path("byteLength").asLong() : 0;
  }

  /** Adds a stretch of bytes; answers the new view's index. */
  int view(byte[] bytes, ObjectNode like) throws CannotTake {
    if (added.size() + (long) bytes.length > MOST_ADDED) {
      throw new CannotTake(
          "Those parts are larger than can be taken alone. Restore the whole version.");
    }
    while (added.size() % 4 != 0) {
      added.write(0);
    }
    if (buffer < 0) {
      ArrayNode buffers =
          json.has("buffers") ? (ArrayNode) json.get("buffers") : json.putArray("buffers");
      buffer = behind && !buffers.isEmpty() ? 0 : buffers.size();
      if (buffer == buffers.size()) {
        buffers.addObject();
      }
    }
    ArrayNode views =
        json.has("bufferViews")
            ? (ArrayNode) json.get("bufferViews")
            : json.putArray("bufferViews");
    ObjectNode view = like.deepCopy();
    view.put("buffer", buffer);
    view.put("byteOffset", start() + added.size());
    view.put("byteLength", bytes.length);
    views.add(view);
    added.writeBytes(bytes);
    ((ObjectNode) json.path("buffers").path(buffer)).put("byteLength", start() + added.size());
    return views.size() - 1;
  }

  private long start() {
    return behind ? (before + 3) / 4 * 4 : 0;
  }

  boolean goesBehind() {
    return behind;
  }

  /** Bytes of the document's own data chunk. */
  long before() {
    return before;
  }

  /** With a length that is a multiple of four. */
  byte[] added() {
    while (added.size() % 4 != 0) {
      added.write(0);
    }
    return added.toByteArray();
  }

  /** Puts what was added into the document itself. */
  void inside() {
    if (buffer >= 0) {
      ((ObjectNode) json.path("buffers").path(buffer))
          .put("uri", GltfGraft.uri(added.toByteArray()));
    }
  }
}
