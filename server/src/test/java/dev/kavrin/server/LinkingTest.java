package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.InstanceOfAssertFactories.PATH;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.bundle.BagCheck;
import dev.kavrin.core.bundle.BagWriter;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What documents lean on through the whole service: broken, led to again, packed, taken in. */
class LinkingTest {
  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private static byte[] glb(String... pictures) {
    StringBuilder json = new StringBuilder("{\"asset\":{\"version\":\"2.0\"},\"images\":[");
    for (String picture : pictures) {
      json.append(json.charAt(json.length() - 1) == '[' ? "" : ",");
      json.append("{\"uri\":\"").append(picture).append("\"}");
    }
    json.append("]}");
    while (json.length() % 4 != 0) {
      json.append(' ');
    }
    byte[] text = json.toString().getBytes(StandardCharsets.UTF_8);
    return ByteBuffer.allocate(20 + text.length)
        .order(ByteOrder.LITTLE_ENDIAN)
        .putInt(0x46546C67)
        .putInt(2)
        .putInt(20 + text.length)
        .putInt(text.length)
        .putInt(0x4E4F534A)
        .put(text)
        .array();
  }

  private void picture(Path file, int colour) throws IOException {
    BufferedImage picture = new BufferedImage(40, 30, BufferedImage.TYPE_INT_RGB);
    for (int i = 0; i < 1200; i++) {
      picture.setRGB(i % 40, i / 40, colour * (1 + i / 300));
    }
    Path made = Files.createTempFile("picture", ".png");
    ImageIO.write(picture, "png", made.toFile());
    app.write(file, Files.readAllBytes(made));
    Files.delete(made);
  }

  private JsonNode state(String document) {
    JsonNode[] state = new JsonNode[1];
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              JsonNode trail = app.client().get("/api/documents/" + document + "/versions").json();
              assertThat(trail.at("/states/0/copies").size()).isGreaterThanOrEqualTo(2);
              assertThat(trail.at("/states/0/verdict").asString()).isNotEqualTo("NOT_CHECKED");
              state[0] = trail.at("/states/0");
            });
    return state[0];
  }

  private String project() throws Exception {
    return app.client()
        .get("/api/overview")
        .json()
        .path("projects")
        .valueStream()
        .filter(p -> p.path("folder").asString().equals(app.work().toString()))
        .findFirst()
        .orElseThrow()
        .path("id")
        .asString();
  }

  private Map<String, String> standing(String project) throws Exception {
    Map<String, String> standing = new java.util.TreeMap<>();
    for (JsonNode row : app.client().get("/api/projects/" + project + "/links").json()) {
      standing.put(row.path("uri").asString(), row.path("status").asString());
    }
    return standing;
  }

  /** The contents that the linked files had with the document's versions. */
  private List<ContentId> seenWith(String document) throws IOException {
    return History.of(
            new Journal(new RealDisk(), BackupFolder.journalFile(app.keep())).readAll().entries())
        .leansOn(UUID.fromString(document))
        .values()
        .stream()
        .flatMap(List::stream)
        .map(JournalEntry.Leaned::content)
        .filter(Objects::nonNull)
        .toList();
  }

  private void pack(String body) throws Exception {
    assertThat(app.client().post("/api/bundles", body).status()).isEqualTo(200);
    ended();
  }

  private void ended() {
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              JsonNode latest = app.client().get("/api/bundles").json();
              assertThat(latest.at("/bundle/stage").asString())
                  .as(latest.toString())
                  .isEqualTo("DONE");
            });
  }

  @Test
  void aMovedPictureIsFoundLedToAgainAndUndone() throws Exception {
    byte[] before = glb("pictures/body.png", "gone.png");
    app.write(app.live(), before);
    Path body = app.work().resolve("pictures/body.png");
    picture(body, 0x102030);
    assertThat(app.project(1).status()).isEqualTo(200);
    String document = app.document();
    state(document);
    assertThat(standing(project()))
        .containsEntry("pictures/body.png", "FOUND")
        .containsEntry("gone.png", "MISSING");
    await()
        .atMost(Patience.LONG)
        .until(
            () ->
                seenWith(document).contains(new Publisher(new RealDisk(), "test").identify(body)));
    Path moved = app.work().resolve("old stock/coach (2).png");
    Files.createDirectories(moved.getParent());
    Files.move(body, moved);
    assertThat(standing(project())).containsEntry("pictures/body.png", "MISSING");
    String serving =
        "/api/documents/"
            + document
            + "/link-candidates?uri="
            + URLEncoder.encode("pictures/body.png", StandardCharsets.UTF_8);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              JsonNode candidates = app.client().get(serving).json();
              assertThat(candidates.at("/0/file").asString()).isEqualTo(moved.toString());
              assertThat(candidates.at("/0/why").asString()).isEqualTo("the same content");
              assertThat(candidates.at("/1/linked").asString()).as("the held copy").isNotEmpty();
            });
    String choice = "{\"choices\":[{\"uri\":\"pictures/body.png\",\"file\":\"%s\"}]}";
    String previews = "/api/documents/" + document + "/relinks/preview";
    assertThat(app.client().post(previews, choice.formatted("/etc/hostname")).status())
        .isEqualTo(403);
    JsonNode preview = app.client().post(previews, choice.formatted(moved)).json();
    assertThat(preview.at("/renamed/0/to").asString()).isEqualTo("old%20stock/coach%20(2).png");
    assertThat(preview.path("unequal").isEmpty()).as(preview.toString()).isTrue();
    assertThat(Files.readAllBytes(app.live())).isEqualTo(before);
    JsonNode receipt =
        app.client()
            .post(
                "/api/documents/" + document + "/part-restores",
                "{\"id\":\"%s\",\"mode\":\"REPLACE\"}".formatted(preview.path("id").asString()))
            .json();
    assertThat(Files.readAllBytes(app.live()))
        .isEqualTo(glb("old%20stock/coach%20(2).png", "gone.png"));
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(standing(project()))
                    .containsEntry("old%20stock/coach%20(2).png", "FOUND"));
    app.client().post("/api/restores/" + receipt.path("id").asString() + "/undo", "{}");
    assertThat(Files.readAllBytes(app.live())).isEqualTo(before);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> assertThat(standing(project())).containsEntry("pictures/body.png", "MISSING"));
    Files.move(moved, moved.resolveSibling("body.png"));
    String rule = "{\"from\":\"%s\",\"to\":\"%s\"}".formatted(body.getParent(), moved.getParent());
    JsonNode found = app.client().post("/api/projects/" + project() + "/links/rule", rule).json();
    assertThat(found.size()).isEqualTo(1);
    assertThat(found.at("/0/file").asString())
        .isEqualTo(moved.resolveSibling("body.png").toString());
  }

  @Test
  void aBundleOpensElsewhereAndAsksForWhatLiesOutside() throws Exception {
    app.write(app.live(), glb("pictures/body.png", "../elsewhere/logo.png", "gone.png"));
    picture(app.work().resolve("pictures/body.png"), 0x203040);
    Path logo = app.work().resolveSibling("elsewhere").resolve("logo.png");
    picture(logo, 0x405060);
    assertThat(app.project(1).status()).isEqualTo(200);
    String document = app.document();
    String choices =
        "\"choices\":[{\"document\":\"%s\",\"state\":\"%s\"}]"
            .formatted(document, state(document).path("id").asString());
    JsonNode preview = app.client().post("/api/bundles/preview", "{" + choices + "}").json();
    assertThat(preview.toString()).contains("\"ask\":\"outside\"", "gone.png");
    String order =
        "{%s,\"folder\":\"%s\",\"allowed\":[%s],\"name\":\"Carriage <2>\",\"note\":\"Doors open.\","
            + "\"questions\":\"Which red?\",\"mark\":\"issued\"}";
    Path without = app.keep().resolveSibling("without");
    pack(order.formatted(choices, without, ""));
    assertThat(without.resolve("data/outside")).doesNotExist();
    assertThat(without.resolve("README.txt")).content().contains("Left out: outside/logo.png");
    Path zip = app.keep().resolveSibling("carriage.zip");
    pack(order.formatted(choices, zip, "\"" + logo + "\""));
    assertThat(new BagCheck(new RealDisk()).of(zip).isValid()).isTrue();
    Path bag = app.keep().resolveSibling("with");
    pack(order.formatted(choices, bag, "\"" + logo + "\""));
    assertThat(new BagCheck(new RealDisk()).of(bag).isValid()).isTrue();
    assertThat(bag.resolve("START-HERE.html"))
        .content()
        .contains("Carriage &lt;2&gt;", "issued", "Which red?", "gone.png")
        .doesNotContain("http:", app.work().toString());
    assertThat(bag.resolve("contents.json")).content().doesNotContain(app.work().toString());
    assertThat(state(document).path("marks").toString()).contains("issued", "Ilse Quarn");

    Path elsewhere = Files.createTempDirectory("elsewhere");
    Path opened = Files.move(bag.resolve("data"), elsewhere.resolve("data"));
    Path model = opened.resolve("carriage-02.glb");
    List<Link> links =
        new HealthCheck(new RealDisk()).inspect(model, "carriage-02.glb").inventory().links();
    assertThat(links)
        .extracting(Link::uri)
        .containsExactly("pictures/body.png", "outside/elsewhere/logo.png", "gone.png");
    for (Link link : links.subList(0, 2)) {
      assertThat(model.resolveSibling(link.uri())).isRegularFile();
    }
    assertThat(opened.resolve("outside/elsewhere/logo.png"))
        .hasBinaryContent(Files.readAllBytes(logo));
  }

  @Test
  void aStateIsWrittenInAnotherFormatUnderANewName() throws Exception {
    app.write(app.live(), model("Frame", "Roof"));
    assertThat(app.project(1).status()).isEqualTo(200);
    String document = app.document();
    String formats =
        "/api/documents/%s/versions/%s/formats"
            .formatted(document, state(document).path("id").asString());
    assertThat(app.client().get(formats).json().valueStream().map(f -> f.path("ending").asString()))
        .containsExactly("obj", "ply", "stl");
    Path out = app.keep().resolveSibling("out");
    String order = "{\"ending\":\"%s\",\"folder\":\"%s\"}";
    assertThat(app.client().post(formats, order.formatted("obj", "/etc")).status()).isEqualTo(403);
    assertThat(app.client().post(formats, order.formatted("exe", out)).status()).isEqualTo(422);
    for (String name : List.of("carriage-02.obj", "carriage-02-2.obj")) {
      JsonNode done = app.client().post(formats, order.formatted("obj", out)).json();
      assertThat(done.path("path").asString()).isEqualTo(out.resolve(name).toString());
    }
    assertThat(out.resolve("carriage-02.obj")).content().contains("o Frame", "o Roof", "f 4 5 6");
  }

  @Test
  void aProjectIsArchivedAndComesBackBitForBit() throws Exception {
    byte[] earlier = glb("pictures/body.png");
    app.write(app.live(), earlier);
    Path body = app.work().resolve("pictures/body.png");
    picture(body, 0x112233);
    byte[] earlierBody = Files.readAllBytes(body);
    Path oak = app.keep().resolveSibling("shelf/oak.png");
    picture(oak, 0x332211);
    app.write(app.work().resolve("notes.txt"), "lang\n".repeat(5000).getBytes());
    app.write(app.work().resolve("server.key"), "secret".getBytes());
    assertThat(app.project(1).status()).isEqualTo(200);
    String document = app.document();
    String first = state(document).path("id").asString();
    byte[] model = glb("pictures/body.png", app.work().relativize(oak).toString());
    app.write(app.live(), model);
    picture(body, 0x445566);
    String archive = "/api/projects/" + project() + "/archive";
    JsonNode[] preview = new JsonNode[1];
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              assertThat(state(document).path("id").asString()).isNotEqualTo(first);
              preview[0] = app.client().get(archive).json();
              assertThat(preview[0].at("/earlier/files").asInt()).isEqualTo(2);
            });
    assertThat(preview[0].at("/inFolder/files").asInt()).isEqualTo(4);
    assertThat(preview[0].path("asked").toString())
        .contains("\"path\":\"server.key\"", "\"path\":\"" + oak, "\"why\":\"outside\"");
    String order = "{\"folder\":\"%s\",\"allowed\":[\"" + oak + "\"],\"note\":\"Done.\"}";
    assertThat(app.client().post(archive, order.formatted(app.work().resolve("a"))).status())
        .isEqualTo(422);
    Path bag = app.keep().resolveSibling("archive");
    assertThat(app.client().post(archive, order.formatted(bag)).status()).isEqualTo(200);
    ended();
    assertThat(new BagCheck(new RealDisk()).of(bag).isValid()).isTrue();
    assertThat(bag.resolve("data/notes.txt.zst")).isRegularFile();
    Path back = app.keep().resolveSibling("back");
    String into = "{\"folder\":\"%s\",\"into\":\"%s\"}";
    assertThat(
            app.client().post("/api/archives/bring-back", into.formatted(bag, app.work())).status())
        .isEqualTo(409);
    app.client().post("/api/archives/bring-back", into.formatted(bag, back));
    ended();
    assertThat(back.resolve("carriage-02.glb")).hasBinaryContent(model);
    assertThat(back.resolve("pictures/body.png")).hasBinaryContent(Files.readAllBytes(body));
    assertThat(back.resolve("notes.txt")).hasContent("lang\n".repeat(5000));
    assertThat(back.resolve("linked from outside/shelf/oak.png"))
        .hasBinaryContent(Files.readAllBytes(oak));
    assertThat(back.resolve("server.key")).doesNotExist();
    String table = Files.readString(bag.resolve("states.csv"));
    assertThat(held(back, table, first)).isEqualTo(earlier);
    assertThat(table).contains("earlier versions/pictures/body.png/");
    try (Stream<Path> pictures = Files.list(back.resolve("earlier versions/pictures/body.png"))) {
      assertThat(pictures).singleElement(PATH).hasBinaryContent(earlierBody);
    }
  }

  /** What the file holds that a table of states names for one. */
  private static byte[] held(Path back, String table, String state) throws IOException {
    String line = table.lines().filter(l -> l.contains(state)).findFirst().orElseThrow();
    return Files.readAllBytes(back.resolve(line.substring(line.lastIndexOf(',') + 1)));
  }

  @Test
  void whatABundleOfAnotherWriterHoldsIsTakenInAsAState() throws Exception {
    app.write(app.live(), model("Frame"));
    assertThat(app.project(1).status()).isEqualTo(200);
    String document = app.document();
    state(document);
    Path root = app.keep().resolveSibling("theirs");
    app.write(root.resolve("in/carriage-02.glb"), model("Frame", "Roof"));
    app.write(root.resolve("in/same.glb"), model("Frame"));
    RealDisk disk = new RealDisk();
    Path bag = Files.createDirectory(root.resolve("bag"));
    new BagWriter(disk, new Publisher(disk, "another"))
        .write(
            new BagWriter.Order(
                List.of(
                    new BagWriter.Item(root.resolve("in/carriage-02.glb"), "carriage-02.glb"),
                    new BagWriter.Item(root.resolve("in/same.glb"), "same.glb")),
                Map.of(),
                Map.of(),
                LocalDate.of(2031, 3, 3)),
            bag,
            bytes -> {});
    String at = "{\"folder\":\"" + bag + "\"}";
    JsonNode held = app.client().post("/api/bundles/contents", at).json();
    assertThat(held.at("/0/fits").asString()).isEqualTo(document);
    assertThat(held.at("/1/holder").asString()).isEqualTo(document);
    String take =
        "{\"folder\":\"%s\",\"path\":\"%s\",\"document\":\"%s\"}".formatted(bag, "%s", document);
    assertThat(app.client().post("/api/bundles/take-in", take.formatted("../x")).status())
        .isEqualTo(404);
    JsonNode after =
        app.client().post("/api/bundles/take-in", take.formatted("carriage-02.glb")).json();
    assertThat(after.at("/0/holder").asString()).as(after.toString()).isEqualTo(document);
    JsonNode trail = app.client().get("/api/documents/" + document + "/versions").json();
    assertThat(trail.path("states").size()).isEqualTo(2);
    assertThat(trail.toString()).contains("taken in");
    assertThat(Files.readAllBytes(app.live())).isEqualTo(model("Frame"));
    Files.write(bag.resolve("data/carriage-02.glb"), model("Frame", "Spoilt"));
    assertThat(
            app.client().post("/api/bundles/take-in", take.formatted("carriage-02.glb")).status())
        .isEqualTo(409);
  }
}
