package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.LinkWriter;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.PartWriter.Opened;
import dev.kavrin.core.content.UriPath;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.TokenStreamContext;
import tools.jackson.databind.json.JsonMapper;

/** Names of pictures and of files with numbers in glTF 2.0, in its text or in its container. */
public final class GltfLinks implements LinkWriter {
  private static final int HEADER = 12;
  private static final int CHUNK = 8;
  private static final Set<String> NAMING = Set.of("images", "buffers");

  @Override
  public String written(String path) {
    return UriPath.of(path);
  }

  @Override
  public List<Patch> patches(Opened file, Map<String, String> names) throws IOException {
    ByteBuffer head = Bytes.head(file.in(), HEADER + CHUNK);
    boolean binary = head.limit() == HEADER + CHUNK && head.getInt(0) == GlbContainer.MAGIC;
    GlbContainer container =
        binary
            ? GlbContainer.read(file.in(), new ArrayList<>())
            : GlbContainer.text(file.in(), new ArrayList<>());
    byte[] json = container.json();
    if (json == null) {
      throw new CannotTake("Its structure cannot be read.");
    }
    List<Patch> patches = names(json, binary ? HEADER + CHUNK : 0, names);
    return binary && !patches.isEmpty() ? withLengths(json, head, patches) : patches;
  }

  private static List<Patch> names(byte[] json, int offset, Map<String, String> names)
      throws IOException {
    List<Patch> patches = new ArrayList<>();
    try (JsonParser parser = JsonMapper.shared().createParser(json)) {
      for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
        if (token == JsonToken.VALUE_STRING && isName(parser.streamReadContext())) {
          long from = parser.currentTokenLocation().getByteOffset();
          String with = names.get(parser.getString());
          if (with != null) {
            long to = parser.currentLocation().getByteOffset();
            byte[] quoted = JsonMapper.shared().writeValueAsBytes(with);
            patches.add(new Patch(offset + from, offset + to, quoted));
          }
        }
      }
    } catch (JacksonException broken) {
      throw new CannotTake("Its structure is no whole JSON.");
    }
    return patches;
  }

  /** True at {@code /images/n/uri} and {@code /buffers/n/uri}. */
  private static boolean isName(TokenStreamContext at) {
    TokenStreamContext list = at.getParent() == null ? null : at.getParent();
    TokenStreamContext top = list == null ? null : list.getParent();
    return "uri".equals(at.currentName())
        && list != null
        && list.inArray()
        && top != null
        && top.getParent() != null
        && top.getParent().inRoot()
        && NAMING.contains(top.currentName());
  }

  /** The lengths in the head, and spaces up to four bytes (glTF 2.0, section 4.4.3.2). */
  private static List<Patch> withLengths(byte[] json, ByteBuffer head, List<Patch> names) {
    int text =
        new String(json, StandardCharsets.UTF_8)
            .stripTrailing()
            .getBytes(StandardCharsets.UTF_8)
            .length;
    long grown = names.stream().mapToLong(p -> p.with().length - (p.to() - p.from())).sum();
    int length = Math.toIntExact(text + grown);
    byte[] spaces = new byte[(4 - length % 4) % 4];
    Arrays.fill(spaces, (byte) ' ');
    long whole = Integer.toUnsignedLong(head.getInt(8)) - json.length + length + spaces.length;
    List<Patch> patches = new ArrayList<>();
    patches.add(number(8, (int) whole));
    patches.add(number(HEADER, length + spaces.length));
    patches.addAll(names);
    patches.add(new Patch(HEADER + CHUNK + text, HEADER + CHUNK + json.length, spaces));
    return patches;
  }

  private static Patch number(int at, int value) {
    ByteBuffer bytes = ByteBuffer.allocate(4).order(ByteOrder.LITTLE_ENDIAN).putInt(value);
    return new Patch(at, at + 4, bytes.array());
  }
}
