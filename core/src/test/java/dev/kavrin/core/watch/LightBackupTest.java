package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.content.gltf.GlbReader;
import dev.kavrin.core.content.gltf.GlbReducer;
import dev.kavrin.core.content.gltf.GltfReducer;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Light;
import dev.kavrin.core.plan.Plan;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import java.util.concurrent.TimeUnit;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Light copies: whole files with less in them. What is written is held against the Khronos
 * validator (npm package gltf-validator) and the archive reader of the Java library.
 */
class LightBackupTest extends EngineFixture {
  private static final Path VALIDATOR =
      Path.of("..", "web", "tools", "validate-glb.mjs").toAbsolutePath().normalize();

  /** A model with an embedded picture before and geometry behind it in the data chunk. */
  private static byte[] painted(int n, int pixels) throws IOException {
    byte[] plain = model(n);
    ByteBuffer glb = ByteBuffer.wrap(plain).order(ByteOrder.LITTLE_ENDIAN);
    int jsonLength = glb.getInt(12);
    ObjectNode json =
        (ObjectNode)
            JsonMapper.shared()
                .readTree(new String(plain, 20, jsonLength, StandardCharsets.UTF_8).strip());
    byte[] bin = java.util.Arrays.copyOfRange(plain, 20 + jsonLength + 8, plain.length);
    byte[] picture = picture(pixels);
    int shift = (picture.length + 3) / 4 * 4;
    for (JsonNode view : json.path("bufferViews")) {
      ((ObjectNode) view).put("byteOffset", view.path("byteOffset").asLong(0) + shift);
    }
    int index = json.path("bufferViews").size();
    ((tools.jackson.databind.node.ArrayNode) json.path("bufferViews"))
        .addObject()
        .put("buffer", 0)
        .put("byteOffset", 0)
        .put("byteLength", picture.length);
    json.putArray("images")
        .addObject()
        .put("name", "oak")
        .put("bufferView", index)
        .put("mimeType", "image/png");
    ((ObjectNode) json.path("buffers").get(0)).put("byteLength", shift + bin.length);
    byte[] text = JsonMapper.shared().writeValueAsBytes(json);
    int padded = (text.length + 3) / 4 * 4;
    ByteBuffer out =
        ByteBuffer.allocate(20 + padded + 8 + shift + bin.length).order(ByteOrder.LITTLE_ENDIAN);
    out.putInt(0x46546C67).putInt(2).putInt(out.capacity()).putInt(padded).putInt(0x4E4F534A);
    out.put(text);
    while (out.position() < 20 + padded) {
      out.put((byte) ' ');
    }
    out.putInt(shift + bin.length).putInt(0x004E4942).put(picture);
    out.position(20 + padded + 8 + shift).put(bin);
    return out.array();
  }

  private static byte[] picture(int pixels) throws IOException {
    BufferedImage image = new BufferedImage(pixels, pixels, BufferedImage.TYPE_INT_RGB);
    Random random = new Random(3);
    for (int i = 0; i < pixels * pixels; i++) {
      image.setRGB(i % pixels, i / pixels, random.nextInt());
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ImageIO.write(image, "png", out);
    return out.toByteArray();
  }

  private static String geometry(Path file) throws IOException {
    try (SeekableByteChannel in = Files.newByteChannel(file)) {
      return new GlbReader()
          .read(in).inventory().counted().stream().map(p -> p.id() + p.exact()).toList().toString();
    }
  }

  @Test
  void aLightModelIsValidAndHasTheSameGeometry() throws Exception {
    Path full = root.resolve("full.glb");
    Path light = root.resolve("light.glb");
    Files.write(full, painted(1, 80));
    try (SeekableByteChannel in = Files.newByteChannel(full);
        OutputStream out = Files.newOutputStream(light)) {
      assertThat(new GlbReducer().leavesOut(in).toString()).contains("picture oak", "kB");
      new GlbReducer().write(in, out);
    }
    for (Path path : List.of(full, light)) {
      Process process = new ProcessBuilder("node", VALIDATOR.toString(), path.toString()).start();
      String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
      assertThat(said.strip()).as(path.toString()).isEqualTo("0 errors");
    }
    assertThat(geometry(light)).isEqualTo(geometry(full));
    assertThat(Files.size(light)).isLessThan(Files.size(full) / 5);
    byte[] bytes = Files.readAllBytes(light);
    int json = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN).getInt(12);
    int pixel = new String(bytes, StandardCharsets.ISO_8859_1).indexOf("\u0089PNG", 20 + json);
    assertThat(ImageIO.read(new ByteArrayInputStream(bytes, pixel, bytes.length - pixel)))
        .as("the placeholder is a picture")
        .isNotNull();
  }

  @Test
  void aModelInTextFormLosesThePicturesWrittenIntoItAndNothingElse() throws Exception {
    String picture =
        "data:image/png;base64," + java.util.Base64.getEncoder().encodeToString(picture(40));
    String text =
        """
        {"asset":{"version":"2.0"},"images":[{"name":"oak","uri":"%s"},{"uri":"pictures/ash.png"}],
         "textures":[{"source":0},{"source":1}],"nodes":[{"name":"Frame"}]}"""
            .formatted(picture);
    Path full = Files.writeString(root.resolve("full.gltf"), text);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (SeekableByteChannel in = Files.newByteChannel(full)) {
      assertThat(new GltfReducer().leavesOut(in)).singleElement().asString().contains("oak");
      new GltfReducer().write(in, out);
    }
    JsonNode light = JsonMapper.shared().readTree(out.toByteArray());
    String uri = light.at("/images/0/uri").asString();
    byte[] pixel = java.util.Base64.getDecoder().decode(uri.substring(uri.indexOf(',') + 1));
    assertThat(ImageIO.read(new ByteArrayInputStream(pixel))).isNotNull();
    ObjectNode whole = (ObjectNode) JsonMapper.shared().readTree(text);
    ((ObjectNode) whole.at("/images/0")).put("uri", uri);
    assertThat(light).as("all else is the same").isEqualTo(whole);
    Files.writeString(full, text.substring(0, 60));
    try (SeekableByteChannel in = Files.newByteChannel(full)) {
      assertThatThrownBy(() -> new GltfReducer().leavesOut(in)).isInstanceOf(IOException.class);
    }
  }

  private void begin() throws IOException {
    start(
        Plan.every(Duration.ofMinutes(10), Counts.newest(4), Duration.ofMinutes(15))
            .with(new Light(true, List.of("renders/*"), 3)),
        "keep",
        "shelf");
    pass(Duration.ofMinutes(1));
  }

  @Test
  void everyThirdCopyIsFullAndTheProtectingOneNeverLight() throws IOException {
    begin();
    for (int n = 1; n <= 9; n++) {
      write(live, painted(n, 60));
      pass(Duration.ofMinutes(12));
      BackupRecord protecting = new KeepInputs(recovery.history(), DOCUMENT).protecting().get(0);
      assertThat(protecting.isLight()).isFalse();
      assertThat(publisher.identify(recovery.absolute(protecting.path())))
          .isEqualTo(protecting.content());
    }
    assertThat(captures().stream().map(BackupRecord::isLight).toList())
        .as("5 to 9 are not all kept: four newest, and the full one that protects")
        .contains(true, false);
    assertThat(captures())
        .filteredOn(BackupRecord::isLight)
        .allSatisfy(c -> assertThat(c.leftOut().toString()).contains("picture oak"))
        .allMatch(c -> c.content().length() < 3000);
    assertThat(captures(1))
        .extracting(BackupRecord::state, BackupRecord::leftOut)
        .isEqualTo(
            captures(0).stream()
                .map(c -> org.assertj.core.groups.Tuple.tuple(c.state(), c.leftOut()))
                .toList());
    BackupRecord newest = captures().get(captures().size() - 1);
    if (newest.isLight()) {
      watch.copyNow(DOCUMENT, "before the bolts");
      assertThat(captures()).filteredOn(c -> c.state().equals(newest.state())).hasSize(2);
      assertThat(new KeepInputs(recovery.history(), DOCUMENT).protecting().get(0).state())
          .isEqualTo(newest.state());
    }
    open();
    pass(Duration.ofHours(1));
    assertThat(captures().get(captures().size() - 1).state()).isEqualTo(newest.state());
  }

  @Test
  void anArchiveIsCopiedWithoutTheEntriesThatFit() throws IOException {
    begin();
    UUID id = new UUID(4, 4);
    recoveries.record(new JournalEntry.DocumentSet(now, id, project.id(), "set.zip"));
    watch.watch(id, "set.zip");
    Path zip = live.resolveSibling("set.zip");
    for (int n = 1; n <= 2; n++) {
      try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(zip))) {
        for (String name : List.of("model.glb", "renders/front.png", "renders.txt")) {
          out.putNextEntry(new ZipEntry(name));
          out.write((name + n).getBytes(StandardCharsets.UTF_8));
          out.closeEntry();
        }
      }
      Files.setLastModifiedTime(zip, java.nio.file.attribute.FileTime.from(now));
      pass(Duration.ofMinutes(12));
    }
    List<BackupRecord> copies = recovery.history().captures(id);
    assertThat(copies).extracting(BackupRecord::isLight).containsExactly(false, true);
    try (ZipFile light = new ZipFile(recovery.absolute(copies.get(1).path()).toFile())) {
      assertThat(light.stream().map(ZipEntry::getName)).containsExactly("model.glb", "renders.txt");
      assertThat(light.getInputStream(light.getEntry("model.glb")).readAllBytes())
          .isEqualTo("model.glb2".getBytes(StandardCharsets.UTF_8));
    }
    assertThat(copies.get(1).leftOut()).containsExactly("entry renders/front.png, 20 B");
  }

  @Test
  void whatCannotBeMeantIsRefused() {
    assertThatThrownBy(() -> new Light(true, List.of(), 1)).hasMessageContaining("1 is not");
    assertThatThrownBy(() -> new Light(true, List.of("["), 6))
        .hasMessageContaining("cannot be read");
  }
}
