package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.SiblingFiles;
import java.io.Closeable;
import java.io.IOException;
import java.net.URLDecoder;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.apache.commons.compress.utils.SeekableInMemoryByteChannel;
import tools.jackson.databind.JsonNode;

/**
 * Where the bytes of a glTF document's buffers are (glTF 2.0, section 3.6.1): in the data chunk, in
 * the document itself as a data URI, or in a file beside it.
 */
final class Buffers implements Closeable {
  private static final int LONGEST_URI = 64_000_000;

  private final List<Optional<Slice>> slices = new ArrayList<>();
  private final List<SeekableByteChannel> opened = new ArrayList<>();
  private final List<String> missing = new ArrayList<>();

  /**
   * @param from first byte in the file it is in
   * @param present bytes that are there
   */
  private record Slice(SeekableByteChannel in, long from, long present) {}

  Buffers(JsonNode json, GlbContainer container, SeekableByteChannel in, SiblingFiles beside)
      throws IOException {
    JsonNode buffers = json.path("buffers");
    for (int i = 0; i < buffers.size(); i++) {
      String uri = buffers.path(i).path("uri").asString("");
      if (!uri.isEmpty()) {
        slices.add(uri.startsWith("data:") ? decoded(uri) : other(uri, beside));
      } else {
        slices.add(
            i == 0 && container.binOffset() >= 0
                ? Optional.of(new Slice(in, container.binOffset(), container.binPresent()))
                : Optional.empty());
      }
    }
  }

  private static Optional<Slice> decoded(String uri) {
    int comma = uri.indexOf(',');
    if (comma < 0 || uri.length() > LONGEST_URI || !uri.substring(0, comma).endsWith(";base64")) {
      return Optional.empty();
    }
    try {
      byte[] bytes = Base64.getDecoder().decode(uri.substring(comma + 1));
      return Optional.of(new Slice(new SeekableInMemoryByteChannel(bytes), 0, bytes.length));
    } catch (IllegalArgumentException noBase64) {
      return Optional.empty();
    }
  }

  private Optional<Slice> other(String uri, SiblingFiles beside) throws IOException {
    Optional<SeekableByteChannel> file;
    try {
      file = beside.open(URLDecoder.decode(uri.replace("+", "%2B"), StandardCharsets.UTF_8));
    } catch (IllegalArgumentException noUri) {
      file = Optional.empty();
    }
    if (file.isEmpty()) {
      missing.add(uri);
      return Optional.empty();
    }
    opened.add(file.get());
    return Optional.of(new Slice(file.get(), 0, file.get().size()));
  }

  /** Names of files that should lie beside it and do not. */
  List<String> missing() {
    return missing;
  }

  /** Where a byte of a buffer stands in its own file, −1 if the buffer is not there. */
  long offset(int buffer, long at) {
    return buffer < 0 || buffer >= slices.size() || slices.get(buffer).isEmpty()
        ? -1
        : slices.get(buffer).get().from() + at;
  }

  /** True if all these bytes are there. */
  boolean has(int buffer, long from, long to) {
    return buffer >= 0
        && buffer < slices.size()
        && slices.get(buffer).filter(s -> from >= 0 && to <= s.present()).isPresent();
  }

  /** Bytes that {@link #has are there}, little-endian. */
  ByteBuffer bytes(int buffer, long from, int count) throws IOException {
    Slice slice = slices.get(buffer).orElseThrow();
    return Bytes.at(slice.in(), slice.from() + from, count);
  }

  @Override
  public void close() throws IOException {
    for (SeekableByteChannel file : opened) {
      file.close();
    }
  }
}
