package dev.kavrin.core.content.gltf;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/** GLB, the binary form of glTF 2.0 (ISO/IEC 12113). */
public final class GlbReader implements ContentReader {
  private static final int LARGEST_PICTURE = 64_000_000;

  @Override
  public boolean reads(String ext) {
    return ext.equals("glb");
  }

  @Override
  public boolean recognises(ByteBuffer head) {
    return head.remaining() >= 4 && head.getInt(0) == GlbContainer.MAGIC;
  }

  @Override
  public Reading read(SeekableByteChannel in) throws IOException {
    GlbFile file = GlbFile.open(in);
    List<Part> parts = new ArrayList<>();
    for (GltfScene.Placed node : file.nodes()) {
      parts.add(part(file, node));
    }
    List<Link> links = new ArrayList<>();
    pictures(file, parts, links);
    for (JsonNode buffer : file.json().path("buffers")) {
      if (buffer.has("uri")) {
        addLink(links, buffer.path("uri").asString(""), "data");
      }
    }
    return new Reading(Inventory.of("glb", parts, links), file.findings());
  }

  private static Part part(GlbFile file, GltfScene.Placed node) throws IOException {
    String placing = ContentHash.of(Arrays.toString(node.world().m())).digest();
    if (node.mesh() < 0) {
      return new Part(
          node.path(),
          node.parent(),
          node.label(),
          "group",
          Map.of(),
          null,
          null,
          placing,
          null,
          true);
    }
    MeshData local = file.mesh(node.mesh());
    String surface = surface(file.json(), node.mesh());
    if (local == null) {
      return new Part(
          node.path(),
          node.parent(),
          node.label(),
          "mesh",
          Map.of(),
          null,
          null,
          placing,
          surface,
          false);
    }
    if (!local.allFinite()) {
      file.findings()
          .add(
              Finding.doubtful(
                  "not-a-number", -1, "Part " + node.label() + " has no-numbers in it."));
    }
    MeshData world = new MeshData(node.world().apply(local.points()), local.corners());
    return new Part(
        node.path(),
        node.parent(),
        node.label(),
        "mesh",
        measures(world),
        world.box(),
        local.fingerprint(),
        placing,
        surface,
        true);
  }

  private static Map<String, Measure> measures(MeshData mesh) {
    Map<String, Measure> measures = new LinkedHashMap<>();
    measures.put("vertices", new Measure(mesh.vertices(), ""));
    measures.put("faces", new Measure(mesh.triangles(), ""));
    measures.put("area", new Measure(mesh.area(), "m²"));
    measures.put("volume", new Measure(mesh.signedVolume(), "m³"));
    Box box = mesh.box();
    measures.put("extent", new Measure(box == null ? 0 : box.diagonal(), "m"));
    return measures;
  }

  private static String surface(JsonNode json, int mesh) {
    StringBuilder text = new StringBuilder();
    for (JsonNode primitive : json.path("meshes").path(mesh).path("primitives")) {
      text.append(json.path("materials").path(primitive.path("material").asInt(-1)));
    }
    return ContentHash.of(text.toString()).digest();
  }

  private static void pictures(GlbFile file, List<Part> parts, List<Link> links)
      throws IOException {
    JsonNode images = file.json().path("images");
    for (int i = 0; i < images.size(); i++) {
      JsonNode image = images.path(i);
      String uri = image.path("uri").asString("");
      if (!uri.isEmpty() && !uri.startsWith("data:")) {
        addLink(links, uri, "picture");
        continue;
      }
      byte[] bytes =
          uri.isEmpty()
              ? file.accessors().viewBytes(image.path("bufferView").asInt(-1), LARGEST_PICTURE)
              : uri.getBytes(java.nio.charset.StandardCharsets.UTF_8);
      String label = image.path("name").asString("picture " + i);
      parts.add(
          new Part(
              "pictures/" + i + " " + label,
              null,
              label,
              "picture",
              bytes == null ? Map.of() : Map.of("size", new Measure(bytes.length, "B")),
              null,
              bytes == null ? null : ContentHash.of(bytes).toString(),
              null,
              null,
              bytes != null));
    }
  }

  private static void addLink(List<Link> links, String uri, String kind) {
    Link link = new Link(uri, kind);
    if (!uri.startsWith("data:") && !links.contains(link)) {
      links.add(link);
    }
  }
}
