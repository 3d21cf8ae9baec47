package dev.kavrin.core.relink;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import de.javagl.jgltf.model.io.RawGltfDataReader;
import dev.kavrin.core.compare.FileComparison.Source;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.regex.Pattern;
import javax.xml.parsers.DocumentBuilderFactory;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.w3c.dom.Element;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Other names in real files; independent readers find them there, and all else as it was. */
class RelinkTest {
  private static final String[] NAMES = {
    "textures/birch.png", "Möbel & Holz/Eiche 02.png", "../shared/a'b<c>.png", "deep/er/日本.png"
  };

  /** What looks like a name of a file and is none, or names another. */
  private static final Map<String, List<String>> STAYS =
      Map.of(
          "a.dae",
          List.of("id='b.png'", "<surface><init_from>b.png<", "url='#b.png'"),
          "a.x3d",
          List.of("\"https://tarnwick.example/b.png\"", "#door\""),
          "a.kml",
          List.of("<Snippet>b.png<"));

  @TempDir Path folder;
  private final RealDisk disk = new RealDisk();
  private final Relink relink = new Relink(disk, new Publisher(disk, "test"));
  private int made;

  private Path changed(String name, byte[] bytes, Map<String, String> names) throws IOException {
    Path base = Files.write(folder.resolve(made++ + "-" + name), bytes);
    Path target = folder.resolve(made++ + "-new-" + name);
    Relink.Written written = relink.write(Source.of(base, name), names, target);
    assertThat(written.unequal()).as(name + names).isEmpty();
    assertThat(Files.readAllBytes(base)).isEqualTo(bytes);
    return target;
  }

  private List<String> paths(Path file, String name) {
    return new HealthCheck(disk)
        .inspect(file, name).inventory().links().stream().map(l -> l.path().orElse("?")).toList();
  }

  private static byte[] gltf(String one, String two) {
    return ("{ \"asset\" : {\"version\":\"2.0\", \"extras\":{\"uri\":\""
            + one
            + "\"}},\n \"images\":[ {\"uri\" : \""
            + one
            + "\"},{\"uri\":\""
            + two
            + "\"},{\"uri\":\"data:image/png;base64,AA==\"}],\n\"buffers\":[{\"byteLength\":1.0e0,\"uri\":\"n.bin\"}]\n}")
        .getBytes(StandardCharsets.UTF_8);
  }

  private static byte[] glb(byte[] json, byte[] bin) {
    int padded = (json.length + 3) / 4 * 4;
    ByteBuffer file =
        ByteBuffer.allocate(12 + 8 + padded + 8 + bin.length).order(ByteOrder.LITTLE_ENDIAN);
    file.putInt(0x46546C67).putInt(2).putInt(file.capacity());
    file.putInt(padded).putInt(0x4E4F534A).put(json);
    while (file.position() < 20 + padded) {
      file.put((byte) ' ');
    }
    return file.putInt(bin.length).putInt(0x004E4942).put(bin).array();
  }

  /** The container is read by the jgltf library, the structure by Jackson. */
  @Test
  void picturesOfModels() throws IOException {
    Random random = new Random(20311108);
    for (String name : NAMES) {
      byte[] json = gltf("old/b.png", "keep.png");
      byte[] bin = new byte[4 * (1 + random.nextInt(99))];
      random.nextBytes(bin);
      String written = Relink.written("a.glb", name);
      Map<String, String> names = Map.of("old/b.png", written);
      Path glb = changed("a.glb", glb(json, bin), names);
      var raw = RawGltfDataReader.read(new ByteArrayInputStream(Files.readAllBytes(glb)));
      byte[] binary = new byte[raw.getBinaryData().remaining()];
      raw.getBinaryData().get(binary);
      assertThat(binary).isEqualTo(bin);
      byte[] text = new byte[raw.getJsonData().remaining()];
      raw.getJsonData().get(text);
      for (byte[] now : List.of(text, Files.readAllBytes(changed("a.gltf", json, names)))) {
        ObjectNode expected = (ObjectNode) JsonMapper.shared().readTree(json);
        ((ObjectNode) expected.at("/images/0")).put("uri", written);
        JsonNode tree = JsonMapper.shared().readTree(now);
        assertThat(tree).isEqualTo(expected);
      }
      assertThat(paths(glb, "a.glb")).contains(name, "keep.png");
    }
  }

  @Test
  void materialsOfMeshesAndTheirPictures() throws IOException {
    for (String name : NAMES) {
      String obj = "# made\r\nmtllib  old stone.mtl \r\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3";
      Path mesh =
          changed("a.obj", obj.getBytes(StandardCharsets.UTF_8), Map.of("old stone.mtl", name));
      assertThat(Files.readString(mesh)).isEqualTo(obj.replace("old stone.mtl", name));
      String mtl =
          "newmtl a\nKd 1 1 1\nmap_Kd -s 2 2 1 -clamp on old/b.png\n bump -bm 0.3 n.png\nnewmtl b\n";
      Path library =
          changed("a.mtl", mtl.getBytes(StandardCharsets.UTF_8), Map.of("old/b.png", name));
      assertThat(Files.readString(library)).isEqualTo(mtl.replace("old/b.png", name));
      assertThat(paths(library, "a.mtl")).containsExactly(name, "n.png");
    }
  }

  @Test
  void referencesOfDrawings() throws IOException {
    String dxf =
        "  0\r\nSECTION\r\n  2\r\nBLOCKS\r\n  0\r\nBLOCK\r\n  2\r\nplan\r\n  1\r\n..\\refs\\plan.dxf\r\n"
            + "  0\r\nENDBLK\r\n  0\r\nENDSEC\r\n  0\r\nSECTION\r\n  2\r\nENTITIES\r\n  0\r\nTEXT\r\n"
            + "  1\r\n..\\refs\\plan.dxf\r\n  0\r\nENDSEC\r\n  0\r\nSECTION\r\n  2\r\nOBJECTS\r\n"
            + "  0\r\nIMAGEDEF\r\n  1\r\nphoto.png\r\n  0\r\nENDSEC\r\n  0\r\nEOF\r\n";
    Path file =
        changed(
            "a.dxf",
            dxf.getBytes(StandardCharsets.UTF_8),
            Map.of("../refs/plan.dxf", "new/plan.dxf", "photo.png", "img/photo 2.png"));
    assertThat(Files.readString(file))
        .isEqualTo(
            dxf.replaceFirst("\\.\\.\\\\refs\\\\plan", "new\\\\plan")
                .replace("photo.png", "img/photo 2.png"));
    assertThat(paths(file, "a.dxf")).containsExactly("new/plan.dxf", "img/photo 2.png");
  }

  /** Read by the JDK's own parser. */
  @Test
  void picturesOfVectorFiles() throws Exception {
    for (String name : NAMES) {
      String svg =
          "<?xml version='1.0'?><!-- <image href='b.png'/> --><svg xmlns='http://www.w3.org/2000/svg'"
              + " xmlns:xlink='http://www.w3.org/1999/xlink'><g id='ä'>\n<image width='3'"
              + " xlink:href='b.png'/><image href=\"b.png\" id=\"i\"/><a href='b.png'/></g></svg>";
      Path file =
          changed(
              "a.svg",
              svg.getBytes(StandardCharsets.UTF_8),
              Map.of("b.png", Relink.written("a.svg", name)));
      var images =
          DocumentBuilderFactory.newInstance()
              .newDocumentBuilder()
              .parse(file.toFile())
              .getElementsByTagName("image");
      assertThat(((Element) images.item(0)).getAttribute("xlink:href"))
          .isEqualTo(((Element) images.item(1)).getAttribute("href"));
      assertThat(new Link(((Element) images.item(1)).getAttribute("href"), "picture").path())
          .contains(name);
      assertThat(Files.readString(file))
          .contains("<!-- <image href='b.png'/> -->", "<a href='b.png'/>");
    }
  }

  /**
   * Read by the JDK's own parser. Sources: ISO/PAS 17506 (COLLADA), ISO/IEC 19776-1 (X3D), OGC KML
   * 2.2.
   */
  @Test
  void filesThatModelsInXmlName() throws Exception {
    Map<String, String> forms =
        Map.of(
            "a.dae",
            "<COLLADA><library_images><image id='b.png'><init_from> b.png </init_from></image>"
                + "<image><init_from><ref>b.png</ref></init_from></image></library_images>"
                + "<surface><init_from>b.png</init_from></surface>"
                + "<instance_geometry url='#b.png'/></COLLADA>",
            "a.x3d",
            "<X3D><ImageTexture url='\"b.png\" \"https://tarnwick.example/b.png\"'/>"
                + "<ImageTexture url=\"&quot;b.png&quot;\"/><Inline url='\"b.png#door\"'/></X3D>",
            "a.kml",
            "<kml><Icon><href>b.png</href></Icon><Link><href>b.png</href></Link>"
                + "<Snippet>b.png</Snippet></kml>");
    for (Map.Entry<String, String> form : forms.entrySet()) {
      for (String name : NAMES) {
        String written = Relink.written(form.getKey(), name);
        String text = form.getValue();
        Path file =
            changed(form.getKey(), text.getBytes(StandardCharsets.UTF_8), Map.of("b.png", written));
        long links = paths(file, form.getKey()).stream().filter(name::equals).count();
        String now =
            DocumentBuilderFactory.newInstance()
                .newDocumentBuilder()
                .parse(file.toFile())
                .getDocumentElement()
                .getTextContent();
        assertThat(links).isEqualTo(form.getKey().equals("a.x3d") ? 3 : 2);
        assertThat(now.split(Pattern.quote(written), -1))
            .hasSize(form.getKey().equals("a.x3d") ? 1 : 3);
        assertThat(Files.readString(file)).containsSubsequence(STAYS.get(form.getKey()));
      }
    }
  }

  @Test
  void whatIsNotThereCannotBeChanged() throws IOException {
    Path base = Files.write(folder.resolve("a.gltf"), gltf("a.png", "b.png"));
    Path target = folder.resolve("b.gltf");
    assertThatThrownBy(() -> relink.write(Source.of(base, "a.gltf"), Map.of("c.png", "d"), target))
        .isInstanceOf(CannotTake.class)
        .hasMessageContaining("c.png");
    assertThat(target).doesNotExist();
    assertThatThrownBy(() -> relink.write(Source.of(base, "a.stl"), Map.of("a.png", "d"), target))
        .isInstanceOf(CannotTake.class);
  }

  /** Source: RFC 3986 by way of the JDK's own reading of it. */
  @Property
  void everyPathComesBackFromItsUri(@ForAll @StringLength(min = 1, max = 40) String path) {
    String valid = new String(path.getBytes(StandardCharsets.UTF_8), StandardCharsets.UTF_8);
    String slashed = "a/" + valid.replace('\\', '/').replace('\0', '-');
    assertThat(new Link(Relink.written("a.svg", slashed), "picture").path()).contains(slashed);
  }
}
