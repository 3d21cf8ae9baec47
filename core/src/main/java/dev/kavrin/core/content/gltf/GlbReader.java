package dev.kavrin.core.content.gltf;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.content.mesh.MeshMeasures;
import dev.kavrin.core.content.mesh.MeshNotes;
import dev.kavrin.core.content.mesh.ShapeReader;
import dev.kavrin.core.content.mesh.Shapes;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import tools.jackson.databind.JsonNode;

/**
 * glTF 2.0 (ISO/IEC 12113), in its binary form and as text with its data inside or beside it. Its
 * parts are the nodes of its scene, its skins, animations and pictures.
 */
public final class GlbReader implements ShapeReader {
  private static final int LARGEST_PICTURE = 64_000_000;

  @Override
  public boolean reads(String ext) {
    return ext.equals("glb") || ext.equals("gltf");
  }

  @Override
  public boolean recognises(ByteBuffer head) {
    return head.remaining() >= 4 && head.getInt(0) == GlbContainer.MAGIC;
  }

  @Override
  public Shapes shapes(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    return GlbFile.open(in, beside);
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    try (GlbFile file = GlbFile.open(in, beside)) {
      return new Contents(file).reading();
    }
  }

  /** What one document holds. */
  private static final class Contents {
    private final GlbFile file;
    private final JsonNode json;
    private final List<Part> parts = new ArrayList<>();
    private final Set<Link> links = new LinkedHashSet<>();
    private final Surfaces surfaces;
    private final MeshNotes notes = new MeshNotes();
    private double precision;

    Contents(GlbFile file) {
      this.file = file;
      this.json = file.json();
      this.surfaces = new Surfaces(json, file.accessors());
    }

    Reading reading() throws IOException {
      for (GltfScene.Placed node : file.nodes()) {
        parts.add(part(node));
      }
      file.findings().addAll(notes.findings());
      moving("skins", "skin", "joints", "joints");
      moving("animations", "animation", "channels", "channels");
      pictures();
      for (JsonNode buffer : json.path("buffers")) {
        link(buffer.path("uri").asString(""), "data");
      }
      return new Reading(
          Inventory.of(file.isBinary() ? "glb" : "gltf", parts, List.copyOf(links))
              .precise(precision),
          file.findings());
    }

    private Part part(GltfScene.Placed node) throws IOException {
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
      if (local == null) {
        return mesh(node, placing, Map.of(), null, null);
      }
      if (!local.allFinite()) {
        file.findings()
            .add(
                Finding.doubtful(
                    "not-a-number", -1, "Part " + node.label() + " has no-numbers in it."));
      }
      MeshData world = GlbFile.placed(node, local);
      Map<String, Measure> measures = MeshMeasures.of(node.label(), world, "m", notes);
      if (node.hidden()) {
        measures.put("hidden", new Measure(1, ""));
      }
      Box box = world.box();
      precision = Math.max(precision, box == null ? 0 : box.precision());
      return mesh(node, placing, measures, box, local.fingerprint());
    }

    /** Without an exact digest it could not be read. */
    private Part mesh(
        GltfScene.Placed node, String placing, Map<String, Measure> measures, Box box, String exact)
        throws IOException {
      return new Part(
          node.path(),
          node.parent(),
          node.label(),
          "mesh",
          measures,
          box,
          exact,
          placing,
          surfaces.of(node.mesh()),
          exact != null);
    }

    /** Skins and animations: what they say, and the numbers they name. */
    private void moving(String list, String kind, String counted, String measure)
        throws IOException {
      JsonNode all = json.path(list);
      for (int i = 0; i < all.size(); i++) {
        JsonNode one = all.path(i);
        ContentHash hash = new ContentHash();
        hash.add(one.toString().getBytes(java.nio.charset.StandardCharsets.UTF_8));
        boolean there = add(hash, one.path("inverseBindMatrices").asInt(-1));
        for (JsonNode sampler : one.path("samplers")) {
          there &= add(hash, sampler.path("input").asInt(-1));
          there &= add(hash, sampler.path("output").asInt(-1));
        }
        String label = one.path("name").asString(kind + " " + i);
        String id = list + "/" + i + " " + label;
        parts.add(
            new Part(
                id,
                null,
                label,
                kind,
                Map.of(measure, new Measure(one.path(counted).size(), "")),
                null,
                there ? hash.id().digest() : null,
                null,
                null,
                there));
      }
    }

    private boolean add(ContentHash hash, int accessor) throws IOException {
      float[] numbers = accessor < 0 ? new float[0] : file.accessors().floats(accessor);
      if (numbers == null) {
        return false;
      }
      hash.add(new MeshData(numbers, new int[0]).fingerprint().getBytes());
      return true;
    }

    private void pictures() throws IOException {
      JsonNode images = json.path("images");
      for (int i = 0; i < images.size(); i++) {
        JsonNode image = images.path(i);
        String uri = image.path("uri").asString("");
        if (!uri.isEmpty() && !uri.startsWith("data:")) {
          link(uri, "picture");
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

    private void link(String uri, String kind) {
      if (!uri.isEmpty() && !uri.startsWith("data:")) {
        links.add(new Link(uri, kind));
      }
    }
  }
}
