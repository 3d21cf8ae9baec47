package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.annex.AnnexProcess;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.keep.ClearOut;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.util.Comparator;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** Copies elsewhere over the real protocol; what arrived is read by somebody else's tool. */
@Order(1)
class OffsiteTest {

  @RegisterExtension static final RunningAnnex annex = new RunningAnnex();
  @RegisterExtension final RunningKavrin app = new RunningKavrin();
  @RegisterExtension final RunningKavrin other = new RunningKavrin();

  private String project(byte[] bytes) throws Exception {
    app.write(app.live(), bytes);
    annex.giveKey(app.data());
    Client.Answer made = app.project(1);
    assertThat(made.status()).as(made.body()).isEqualTo(200);
    return made.json().path("id").asString();
  }

  private static String place(URI service, String begin) {
    return """
    {"address":"s3://%s/%s","service":"%s","key":"annex.key"}"""
        .formatted(AnnexProcess.BUCKET, begin, service);
  }

  private static String use(boolean paused) {
    return """
    {"name":"Annex","bytesPerSecond":0,"paused":%s,"readEveryDays":30}"""
        .formatted(paused);
  }

  private Client.Answer add(String project, URI service, String begin) throws Exception {
    return add(project, place(service, begin));
  }

  private Client.Answer add(String project, String place) throws Exception {
    return app.client()
        .post(
            "/api/projects/" + project + "/stores",
            "{\"place\":" + place + ",\"use\":" + use(false) + "}");
  }

  private static String place(URI service, String begin, String seal) {
    return place(service, begin).replace("}", ",\"seal\":\"" + seal + "\"}");
  }

  private static void giveWords(Path data) throws IOException {
    Path words = data.resolve("keys/annex.words");
    Files.writeString(words, "passphrase=winding drum, brake lever\n");
    Files.setPosixFilePermissions(words, PosixFilePermissions.fromString("rw-------"));
  }

  private JsonNode elsewhere(String project) throws Exception {
    return app.client().get("/api/projects/" + project + "/elsewhere").json();
  }

  private JsonNode store(String project) throws Exception {
    return elsewhere(project).at("/stores/0");
  }

  private void untilThere(String project, int copies) {
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              JsonNode store = store(project);
              assertThat(store.path("copies").asInt()).as(store.toString()).isEqualTo(copies);
              assertThat(store.path("waiting").asInt()).isZero();
            });
  }

  @Test
  void whatArrivesIsReadBySomebodyElsesToolAndCountsAsElsewhere() throws Exception {
    String project = project(RunningKavrin.model("Frame"));
    await().atMost(Patience.LONG).until(() -> RunningKavrin.backups(app.keep()) == 1);
    assertThat(elsewhere(project).at("/coverage/elsewhere").asInt()).isZero();
    assertThat(add(project, annex.address(), "first").status()).isEqualTo(200);
    untilThere(project, 1);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(app.client().get("/api/overview").json().at("/projects/0/cautions"))
                    .hasToString(
                        "[\"Same disk as the work: if it breaks, only the copies elsewhere are left.\"]"));

    String listed = annex.s3cmd("ls", "-r", "s3://annex/first/");
    String object =
        listed
            .lines()
            .filter(l -> l.endsWith(".glb"))
            .map(l -> l.substring(l.indexOf("s3://")))
            .findFirst()
            .orElseThrow();
    assertThat(object).contains("/carriage-").contains("/files/carriage-02.000001.");
    Path fetched = app.in("fetched.glb");
    annex.s3cmd("get", object, fetched.toString());
    assertThat(fetched).hasBinaryContent(RunningKavrin.model("Frame"));

    JsonNode document = elsewhere(project).at("/coverage/documents/0");
    assertThat(document.at("/coverage/copies").asInt()).isEqualTo(3);
    assertThat(document.at("/coverage/elsewhere").asInt()).isEqualTo(1);
    assertThat(document.path("siteLost").asLong()).isZero();
    assertThat(document.path("answer").asString()).isEqualTo("YES");
    assertThat(add(project, annex.address(), "first").status()).isEqualTo(409);
  }

  @Test
  void whatOnlyTheStoreStillHasIsFetchedBackAmongTheOthersAndPinned() throws Exception {
    byte[] bytes = RunningKavrin.model("Frame", "Sand box");
    String project = project(bytes);
    assertThat(add(project, annex.address(), "alone").status()).isEqualTo(200);
    untilThere(project, 1);
    String base = "/api/documents/" + app.document();
    assertThat(app.client().get(base + "/stored-versions").json().size()).isZero();
    String state = app.client().get(base + "/versions").json().at("/states/0/id").asString();
    RunningKavrin.forget(app.keep(), "[^.].*\\.glb");
    assertThat(app.client().post(base + "/recheck", "{\"state\":\"" + state + "\"}").status())
        .isEqualTo(200);

    JsonNode there = app.client().get(base + "/stored-versions").json();
    assertThat(there.size()).as(there.toString()).isEqualTo(1);
    assertThat(there.at("/0/storeName").asString()).isEqualTo("Annex");
    String wanted =
        "{\"store\":%s,\"state\":%s}".formatted(there.at("/0/store"), there.at("/0/state"));
    Client.Answer fetched = app.client().post(base + "/stored-versions/fetch", wanted);
    assertThat(fetched.status()).as(fetched.body()).isEqualTo(200);
    assertThat(fetched.json().path("state").asString()).isEqualTo(state);
    assertThat(app.client().get(base + "/stored-versions").json().size()).isZero();
    try (Stream<Path> all = Files.walk(app.keep())) {
      assertThat(all.filter(p -> p.toString().endsWith(".glb")).toList())
          .singleElement()
          .satisfies(p -> assertThat(p).hasBinaryContent(bytes));
    }
    JsonNode back = app.client().get(base + "/versions").json().at("/states/0");
    assertThat(back.path("marks").toString()).contains("pinned", "Fetched from Annex");
    assertThat(back.path("copies").toString()).contains("CAPTURE").doesNotContain("fault");
    assertThat(app.client().post(base + "/stored-versions/fetch", wanted).status()).isEqualTo(404);
  }

  @Test
  void whatThePlanDroppedHereIsFetchedUnderItsOldNameAndStays() throws Exception {
    byte[] dropped = RunningKavrin.model("Frame");
    app.write(app.live(), dropped);
    annex.giveKey(app.data());
    Client.Answer made = app.project(app.work(), app.keep(), 1);
    assertThat(made.status()).as(made.body()).isEqualTo(200);
    String project = made.json().path("id").asString();
    assertThat(add(project, annex.address(), "dropped").status()).isEqualTo(200);
    untilThere(project, 1);
    app.write(app.live(), RunningKavrin.model("Frame", "Bell"));
    untilThere(project, 2);
    Kept kept = app.kavrin().bean(Engine.class).projects().iterator().next();
    String base = "/api/documents/" + app.document();
    String oldest = app.client().get(base + "/versions").json().at("/states/1/id").asString();
    ClearOut all = new ClearOut(Duration.ZERO, null, false, 0);
    UUID document = UUID.fromString(app.document());
    assertThat(kept.retention().clearOut(all, document, Set.of(oldest), "Ilse Quarn")).hasSize(1);
    await()
        .atMost(Patience.LONG)
        .until(() -> app.client().get(base + "/versions").json().path("states").size() == 1);

    JsonNode there = app.client().get(base + "/stored-versions").json();
    assertThat(there.size()).as(there.toString()).isEqualTo(1);
    String wanted =
        "{\"store\":%s,\"state\":%s}".formatted(there.at("/0/store"), there.at("/0/state"));
    Client.Answer fetched = app.client().post(base + "/stored-versions/fetch", wanted);
    assertThat(fetched.status()).as(fetched.body()).isEqualTo(200);
    JsonNode states = app.client().get(base + "/versions").json().path("states");
    assertThat(states.size()).isEqualTo(2);
    assertThat(states.at("/1/id").asString()).isEqualTo(oldest);
    assertThat(states.at("/1/copies").size()).isEqualTo(1);
    assertThat(Path.of(states.at("/1/copies/0/path").asString())).hasBinaryContent(dropped);
    assertThat(states.at("/1/keptBecause").asString()).contains("pinned");
  }

  @Test
  void whatAnotherToolLeftInTheStoreIsFoundAndTakenIn() throws Exception {
    String project = project(RunningKavrin.model("Frame", "Roof", "Brake shoe", "Sand box"));
    assertThat(add(project, annex.address(), "shared").status()).isEqualTo(200);
    untilThere(project, 1);
    byte[] earlier = RunningKavrin.model("Frame", "Roof", "Brake shoe");
    Path theirs = app.in("theirs.glb");
    Files.write(theirs, earlier);
    String object = "s3://annex/shared/old-tool/2031-03-01/carriage/carriage-02.glb";
    annex.s3cmd("put", theirs.toString(), object);
    annex.s3cmd("put", theirs.toString(), "s3://annex/shared/old-tool/2031-03-01/winch.glb");

    assertThat(app.client().post("/api/search", "").status()).isEqualTo(202);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> assertThat(search().at("/latest/ended").asString("")).as("search").isNotEmpty());
    assertThat(search().path("strays").size()).as(search().toString()).isEqualTo(1);
    JsonNode stray = search().at("/strays/0");
    assertThat(stray.path("path").asString()).isEqualTo(object);
    assertThat(stray.path("inStore").asBoolean()).isTrue();
    assertThat(stray.path("standing").asString()).isEqualTo("OPEN");
    assertThat(versions()).isEqualTo(1);

    String takeIn = "/api/strays/" + stray.path("id").asString() + "/take-in";
    assertThat(app.client().post(takeIn, "").status()).isEqualTo(200);
    await().atMost(Patience.LONG).until(() -> versions() == 2);
    assertThat(search().at("/strays/0/standing").asString()).isEqualTo("ACCEPTED");
    Path again = app.in("again.glb");
    annex.s3cmd("get", object, again.toString());
    assertThat(again).hasBinaryContent(earlier);
    annex.s3cmd("del", object);
    assertThat(app.client().post(takeIn, "").status()).isEqualTo(404);
  }

  private JsonNode search() throws Exception {
    return app.client().get("/api/search").json();
  }

  private int versions() throws Exception {
    return app.client()
        .get("/api/documents/" + app.document() + "/versions")
        .json()
        .path("states")
        .size();
  }

  @Test
  @Tag("full")
  void aLineThatIsCutInTheMiddleIsGoneOnWithWhereItWasCut() throws Exception {
    byte[] large = large(18_000_000);
    String project = project(RunningKavrin.model("Frame"));
    await().atMost(Patience.LONG).until(() -> RunningKavrin.backups(app.keep()) == 1);
    app.write(app.live(), large);
    await().atMost(Patience.LONG).until(() -> RunningKavrin.backups(app.keep()) == 2);
    try (UnsureLine line = new UnsureLine(annex.address())) {
      assertThat(add(project, line.address(), "second").status()).isEqualTo(200);
      line.cutAfter(40_000_000);
      await()
          .atMost(Patience.LONG)
          .untilAsserted(
              () ->
                  assertThat(store(project).path("problem").asString())
                      .contains("does not answer"));
      assertThat(elsewhere(project).at("/stores/0/bytes").asLong()).isLessThan(large.length);
      line.mend();
      untilThere(project, 2);
      // What arrived in whole parts of 16 MB before the cut is not sent again.
      assertThat(line.sent()).isBetween((long) large.length, large.length + 2 * 17_000_000L);
    }
    Path fetched = app.in("fetched.glb");
    String object =
        annex
            .s3cmd("ls", "-r", "s3://annex/second/")
            .lines()
            .filter(l -> l.contains(" " + large.length + " "))
            .map(l -> l.substring(l.indexOf("s3://")))
            .findFirst()
            .orElseThrow();
    annex.s3cmd("get", object, fetched.toString());
    assertThat(fetched).hasBinaryContent(large);
  }

  /** A model of some 72 MB that is whole. */
  private static byte[] large(int numbers) {
    Random random = new Random(3);
    float[] points = new float[numbers];
    for (int i = 0; i < points.length; i++) {
      points[i] = random.nextFloat();
    }
    GlbWriter writer = new GlbWriter();
    writer.mesh("Frame", -1, new MeshData(points, new int[] {0, 1, 2}), null, null, -1);
    return writer.bytes(Map.of());
  }

  @Test
  void aServiceThatFailsIsAskedAgainAndNothingCountsMeanwhile() throws Exception {
    String project = project(RunningKavrin.model("Frame"));
    await().atMost(Patience.LONG).until(() -> RunningKavrin.backups(app.keep()) == 1);
    try (UnsureLine line = new UnsureLine(annex.address())) {
      assertThat(add(project, line.address(), "third").status()).isEqualTo(200);
      untilThere(project, 1);
      line.failing(Integer.MAX_VALUE);
      app.write(app.live(), RunningKavrin.model("Frame", "Bell"));
      await().atMost(Patience.LONG).until(() -> RunningKavrin.backups(app.keep()) == 2);
      await()
          .atMost(Patience.LONG)
          .untilAsserted(
              () -> assertThat(store(project).path("problem").asString()).contains("500"));
      assertThat(store(project).path("copies").asInt()).isEqualTo(1);
      assertThat(store(project).path("waiting").asInt()).isEqualTo(1);
      assertThat(elsewhere(project).at("/coverage/documents/0/coverage/elsewhere").asInt())
          .isZero();
      line.failing(0);
      untilThere(project, 2);
    }
  }

  @ParameterizedTest
  @CsvSource({"ExpiredToken,does not take this key", "RequestTimeTooSkewed,clock is wrong"})
  void aServiceThatRefusesIsToldInWordsAndGoneOnWithOnceItTakesThem(String code, String words)
      throws Exception {
    String project = project(RunningKavrin.model("Frame"));
    await().atMost(Patience.LONG).until(() -> RunningKavrin.backups(app.keep()) == 1);
    try (UnsureLine line = new UnsureLine(annex.address())) {
      assertThat(add(project, line.address(), code).status()).isEqualTo(200);
      untilThere(project, 1);
      line.refusing(Integer.MAX_VALUE, code);
      app.write(app.live(), RunningKavrin.model("Frame", "Bell"));
      await()
          .atMost(Patience.LONG)
          .untilAsserted(
              () -> assertThat(store(project).path("problem").asString()).contains(words));
      assertThat(store(project).path("copies").asInt()).isEqualTo(1);
      line.failing(0);
      untilThere(project, 2);
    }
  }

  @Test
  @Tag("full")
  void aSlowLineHoldsUpNoBackupHereAndCountsNothingEarly() throws Exception {
    String project = project(RunningKavrin.model("Frame"));
    await().atMost(Patience.LONG).until(() -> RunningKavrin.backups(app.keep()) == 1);
    try (UnsureLine line = new UnsureLine(annex.address())) {
      assertThat(add(project, line.address(), "slow").status()).isEqualTo(200);
      untilThere(project, 1);
      line.slow(4_000);
      app.write(app.live(), large(300_000));
      await().atMost(Patience.LONG).until(() -> !store(project).path("sending").isMissingNode());
      app.write(app.live(), RunningKavrin.model("Frame", "Bell"));
      await().atMost(Patience.LONG).until(() -> RunningKavrin.backups(app.keep()) == 3);
      assertThat(store(project).path("copies").asInt()).isEqualTo(1);
      line.slow(Long.MAX_VALUE);
      untilThere(project, 3);
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "annex.words"})
  void aMachineThatIsLostComesBackFromTheStoreAlone(String seal) throws Exception {
    String begin = "fourth" + seal;
    String project = project(RunningKavrin.model("Frame"));
    giveWords(app.data());
    app.write(app.work().resolve("sub/lamp.glb"), RunningKavrin.model("Lamp"));
    await().atMost(Patience.LONG).until(() -> RunningKavrin.backups(app.keep()) == 2);
    app.write(app.live(), RunningKavrin.model("Frame", "Bell"));
    await().atMost(Patience.LONG).until(() -> RunningKavrin.backups(app.keep()) == 3);
    assertThat(add(project, place(annex.address(), begin, seal)).status()).isEqualTo(200);
    untilThere(project, 3);
    Map<String, byte[]> work = files(app.work());
    assertThat(annex.s3cmd("ls", "-r", "s3://annex/" + begin + "/")).contains("/files/");
    app.stop();

    annex.giveKey(other.data());
    giveWords(other.data());
    if (!seal.isEmpty()) {
      Client.Answer closed =
          other.client().post("/api/stores/look", place(annex.address(), begin, ""));
      assertThat(closed.status()).isEqualTo(503);
      assertThat(closed.body()).contains("passphrase is needed");
    }
    String place = place(annex.address(), begin, seal);
    JsonNode found = other.client().post("/api/stores/look", place).json();
    assertThat(found.size()).isEqualTo(1);
    assertThat(found.at("/0/name").asString()).isEqualTo("Carriage");
    assertThat(found.at("/0/copies").asInt()).isEqualTo(3);
    Client.Answer back =
        other
            .client()
            .post(
                "/api/stores/bring-back",
                """
                {"place":%s,"begin":"%s","work":"%s","recovery":"%s"}
                """
                    .formatted(place, found.at("/0/begin").asString(), other.work(), other.keep()));
    assertThat(back.status()).as(back.body()).isEqualTo(200);
    assertThat(back.json().path("backups").asInt()).isEqualTo(3);
    assertThat(back.json().path("failed").size()).as(back.body()).isZero();
    assertThat(files(other.work())).usingRecursiveComparison().isEqualTo(work);
    assertThat(RunningKavrin.backups(other.keep())).isEqualTo(3);
    JsonNode versions =
        other.client().get("/api/documents/" + other.document() + "/versions").json();
    assertThat(versions.path("states").size()).isEqualTo(2);
    // It is sent there again from here, and nothing is sent twice.
    JsonNode again =
        other.client().get("/api/projects/" + project + "/elsewhere").json().at("/stores/0");
    assertThat(again.path("copies").asInt()).isEqualTo(3);
    assertThat(again.path("waiting").asInt()).isZero();
  }

  private static Map<String, byte[]> files(Path folder) throws IOException {
    Map<String, byte[]> found = new TreeMap<>();
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path file :
          all.filter(Files::isRegularFile)
              .filter(p -> !p.toString().contains(".kavrin"))
              .sorted(Comparator.naturalOrder())
              .toList()) {
        found.put(folder.relativize(file).toString(), Files.readAllBytes(file));
      }
    }
    return found;
  }

  @Test
  void whatCannotBeAStoreIsRefusedInWordsAndNothingIsSet() throws Exception {
    String project = project(RunningKavrin.model("Frame"));
    String at = "/api/projects/" + project + "/stores";
    String use = ",\"use\":" + use(false) + "}";
    Client.Answer noService =
        app.client().post(at, "{\"place\":{\"address\":\"s3://annex\"}" + use);
    assertThat(noService.status()).isEqualTo(422);
    assertThat(noService.body()).contains("address of its service");
    Client.Answer outside = app.client().post(at, "{\"place\":{\"address\":\"/etc\"}" + use);
    assertThat(outside.status()).isEqualTo(403);
    String escaping = place(annex.address(), "fifth").replace("annex.key", "../node");
    Client.Answer name = app.client().post(at, "{\"place\":" + escaping + use);
    assertThat(name.status()).isEqualTo(503);
    assertThat(name.body()).contains("is not the name of a file");
    Path key = app.data().resolve("keys/open.key");
    Files.writeString(key, "access-key=annex\nsecret-key=wrong\n");
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-r--r--"));
    String open = place(annex.address(), "fifth").replace("annex.key", "open.key");
    assertThat(app.client().post(at, "{\"place\":" + open + use).body())
        .contains("chmod 600")
        .doesNotContain("wrong");
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-------"));
    assertThat(app.client().post(at, "{\"place\":" + open + use).body())
        .contains("does not take this key");
    assertThat(
            app.client()
                .put(
                    "/api/projects/" + project + "/coverage-rule",
                    "\"0\"",
                    "{\"copies\":2,\"disks\":3,\"elsewhere\":0}")
                .status())
        .isEqualTo(422);
    assertThat(elsewhere(project).path("stores").size()).isZero();
    assertThat(app.client().get("/api/keys").body())
        .contains("open.key")
        .doesNotContain("orlop-gudgeon");
  }

  @Test
  void aMountedFolderIsAStoreToo() throws Exception {
    String project = project(RunningKavrin.model("Frame"));
    Path mounted = Files.createDirectories(app.in("mounted"));
    Client.Answer added =
        app.client()
            .post(
                "/api/projects/" + project + "/stores",
                "{\"place\":{\"address\":\"" + mounted + "\"},\"use\":" + use(false) + "}");
    assertThat(added.status()).as(added.body()).isEqualTo(200);
    untilThere(project, 1);
    try (Stream<Path> all = Files.walk(mounted)) {
      assertThat(all.filter(p -> p.toString().endsWith(".glb")).toList())
          .singleElement()
          .satisfies(p -> assertThat(p).hasBinaryContent(RunningKavrin.model("Frame")));
    }
    assertThat(Files.readString(mounted.resolve("store.json"), StandardCharsets.UTF_8))
        .contains("id");
    String id = store(project).at("/store/id").asString();
    Client.Answer paused =
        app.client().put("/api/projects/" + project + "/stores/" + id, "\"0\"", use(true));
    assertThat(paused.status()).as(paused.body()).isEqualTo(200);
    app.write(app.live(), RunningKavrin.model("Frame", "Bell"));
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              assertThat(store(project).path("problem").asString()).isEqualTo("paused by hand");
              assertThat(store(project).path("waiting").asInt()).isEqualTo(1);
            });
    assertThat(app.client().delete("/api/projects/" + project + "/stores/" + id).status())
        .isEqualTo(200);
    assertThat(elsewhere(project).path("stores").size()).isZero();
  }
}
