package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Reducer;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * GLB without its embedded pictures: each is replaced by a single grey pixel, so that the file
 * stays valid glTF 2.0 and every index keeps its meaning.
 */
public final class GlbReducer implements Reducer {
  /** The smallest PNG: one grey pixel. */
  static final byte[] PIXEL =
      Base64.getDecoder()
          .decode(
              "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR42mNoAAAAggCB2kUIOwAAAABJRU5ErkJggg==");

  private static final int BLOCK = 1 << 16;

  @Override
  public boolean takes(String ext) {
    return ext.equals("glb");
  }

  /** A file with its structure read. */
  private record Opened(GlbContainer container, ObjectNode json) {
    static Opened of(SeekableByteChannel in) throws IOException {
      List<Finding> findings = new ArrayList<>();
      GlbContainer container = GlbContainer.read(in, findings);
      if (!findings.isEmpty() || container.json() == null) {
        throw new IOException("It is no whole GLB file, so nothing can be left out");
      }
      JsonNode json = JsonMapper.shared().readTree(container.json());
      if (!(json instanceof ObjectNode structure)) {
        throw new IOException("Its structure is not a JSON object");
      }
      return new Opened(container, structure);
    }

    /** Views that hold a picture and nothing else, larger than what would replace it. */
    Set<Integer> pictures() {
      Set<Integer> pictures = new HashSet<>();
      for (JsonNode image : json.path("images")) {
        int view = image.path("bufferView").asInt(-1);
        JsonNode told = json.path("bufferViews").path(view);
        if (told.path("buffer").asInt(-1) == 0 && told.path("byteLength").asLong() > PIXEL.length) {
          pictures.add(view);
        }
      }
      for (JsonNode accessor : json.path("accessors")) {
        pictures.remove(accessor.path("bufferView").asInt(-1));
      }
      return pictures;
    }
  }

  @Override
  public List<Left> left(SeekableByteChannel in) throws IOException {
    Opened file = Opened.of(in);
    Set<Integer> pictures = file.pictures();
    List<Left> left = new ArrayList<>();
    int number = 0;
    for (JsonNode image : file.json().path("images")) {
      int view = image.path("bufferView").asInt(-1);
      if (pictures.contains(view)) {
        long size = file.json().path("bufferViews").path(view).path("byteLength").asLong();
        left.add(new Left("picture " + image.path("name").asString("" + number), size));
      }
      number++;
    }
    return left;
  }

  /** A stretch of the new data chunk: a view's own bytes, or the pixel. */
  private record Stretch(long from, long length, boolean pixel) {}

  @Override
  public void write(SeekableByteChannel in, OutputStream out) throws IOException {
    Opened file = Opened.of(in);
    Set<Integer> pictures = file.pictures();
    List<Stretch> stretches = new ArrayList<>();
    long at = 0;
    int index = 0;
    for (JsonNode node : file.json().path("bufferViews")) {
      if (node.path("buffer").asInt(-1) == 0 && node instanceof ObjectNode view) {
        boolean pixel = pictures.contains(index);
        long from = view.path("byteOffset").asLong(0);
        long length = pixel ? PIXEL.length : view.path("byteLength").asLong();
        view.put("byteOffset", at);
        view.put("byteLength", length);
        stretches.add(new Stretch(from, length, pixel));
        at = padded(at + length);
      }
      index++;
    }
    for (JsonNode image : file.json().path("images")) {
      if (pictures.contains(image.path("bufferView").asInt(-1)) && image instanceof ObjectNode o) {
        o.put("mimeType", "image/png");
      }
    }
    if (file.json().path("buffers").path(0) instanceof ObjectNode buffer) {
      buffer.put("byteLength", at);
    }
    byte[] json = JsonMapper.shared().writeValueAsBytes(file.json());
    long jsonLength = padded(json.length);
    ByteBuffer head = ByteBuffer.allocate(20).order(ByteOrder.LITTLE_ENDIAN);
    head.putInt(0x46546C67).putInt(2).putInt((int) (12 + 8 + jsonLength + 8 + at));
    head.putInt((int) jsonLength).putInt(0x4E4F534A);
    out.write(head.array());
    out.write(json);
    fill(out, jsonLength - json.length, ' ');
    out.write(
        ByteBuffer.allocate(8)
            .order(ByteOrder.LITTLE_ENDIAN)
            .putInt((int) at)
            .putInt(0x004E4942)
            .array());
    for (Stretch stretch : stretches) {
      if (stretch.pixel()) {
        out.write(PIXEL);
      } else {
        copy(in, file.container().binOffset() + stretch.from(), stretch.length(), out);
      }
      fill(out, padded(stretch.length()) - stretch.length(), 0);
    }
  }

  private static long padded(long length) {
    return (length + 3) / 4 * 4;
  }

  private static void fill(OutputStream out, long count, int with) throws IOException {
    for (long n = 0; n < count; n++) {
      out.write(with);
    }
  }

  private static void copy(SeekableByteChannel in, long from, long length, OutputStream out)
      throws IOException {
    for (long done = 0; done < length; ) {
      int count = (int) Math.min(BLOCK, length - done);
      out.write(Bytes.at(in, from + done, count).array(), 0, count);
      done += count;
    }
  }
}
