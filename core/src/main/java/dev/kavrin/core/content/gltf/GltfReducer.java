package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.Reducer;
import dev.kavrin.core.content.Unclosed;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** The text form of glTF 2.0 without the pictures written into it; a grey pixel stands for each. */
public final class GltfReducer implements Reducer {
  private static final long LONGEST = 256_000_000;
  private static final String PIXEL =
      "data:image/png;base64," + Base64.getEncoder().encodeToString(GlbReducer.PIXEL);

  @Override
  public boolean takes(String ext) {
    return ext.equals("gltf");
  }

  private static ObjectNode read(SeekableByteChannel in) throws IOException {
    if (in.size() > LONGEST) {
      throw new IOException("It is too large to be made lighter here");
    }
    in.position(0);
    try {
      JsonNode json = JsonMapper.shared().readTree(Channels.newInputStream(new Unclosed(in)));
      if (json instanceof ObjectNode structure) {
        return structure;
      }
    } catch (JacksonException broken) {
      throw new IOException("It is no readable JSON, so nothing can be left out", broken);
    }
    throw new IOException("Its structure is not a JSON object");
  }

  private static boolean isWrittenInto(JsonNode image) {
    String uri = image.path("uri").asString("");
    return uri.startsWith("data:") && uri.length() > PIXEL.length();
  }

  @Override
  public List<Left> left(SeekableByteChannel in) throws IOException {
    List<Left> left = new ArrayList<>();
    int number = 0;
    for (JsonNode image : read(in).path("images")) {
      if (isWrittenInto(image)) {
        String name = image.path("name").asString("" + number);
        left.add(new Left("picture " + name, image.path("uri").asString().length()));
      }
      number++;
    }
    return left;
  }

  @Override
  public void write(SeekableByteChannel in, OutputStream out) throws IOException {
    ObjectNode json = read(in);
    for (JsonNode image : json.path("images")) {
      if (isWrittenInto(image) && image instanceof ObjectNode changed) {
        changed.put("uri", PIXEL);
        changed.remove("mimeType");
      }
    }
    out.write(JsonMapper.shared().writeValueAsBytes(json));
  }
}
