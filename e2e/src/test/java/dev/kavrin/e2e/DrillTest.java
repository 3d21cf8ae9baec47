package dev.kavrin.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Crashes with the real processes: with Kavrin at once, two programs at once, the drive gone. */
@Tag("full")
class DrillTest {

  /** A program's file, and what its newest autosave holds. */
  private record Work(Path model, byte[] autosaved) {
    Path keep() {
      return model.getParent().resolveSibling("keep " + model.getParent().getFileName());
    }
  }

  private static Path settings(Service service) throws IOException {
    Path settings = service.world().resolve("modeller.properties");
    Files.writeString(settings, "safety.minutes = 600\n");
    return settings;
  }

  /** Unsaved work that only the program's own copy holds. */
  private static Work work(Program program, Path model) throws IOException {
    program.say("add Hall");
    program.say("save");
    program.say("add Clock");
    program.say("copy");
    return new Work(model, Files.readAllBytes(model.resolveSibling(".drafts/deck~1.tmp")));
  }

  private static Program open(Service service, Path folder) throws Exception {
    Path model = Files.createDirectories(folder).resolve("deck.glb");
    dev.kavrin.standin.Scene scene = new dev.kavrin.standin.Scene();
    scene.put("Deck " + folder.getFileName(), "Body", dev.kavrin.standin.Shapes.box(4, 1, 2, 20));
    Files.write(model, scene.toGlb());
    Owner.give(service.world());
    return Program.modeller(service, model, service.world().resolve("modeller.properties"));
  }

  private static void keep(Api api, Path folder) throws Exception {
    String request =
        """
        {"name":"%s","folder":"%s","rule":["*.glb"],"recovery":"%s",
         "program":{"name":"Tarn Modeller","process":"dev.kavrin.standin.ModellerProcess",
          "sessionSign":".{stem}.open",
          "leftovers":[{"kind":"AUTOSAVE","folder":".drafts","pattern":"{stem}~{n}.tmp"}]},
         "plan":{"interval":"PT1S","quiet":"PT2S","hardLimit":"PT60S","accepted":"PT30M",
          "keep":{"newest":9,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0}}}
        """
            .formatted(
                folder.getFileName(),
                folder,
                folder.resolveSibling("keep " + folder.getFileName()));
    assertThat(api.post("api/projects", request).status()).isEqualTo(200);
  }

  /** A program that nobody saw before all died left no more than a lock file to go by. */
  private static boolean isSeenAtWork(Path folder) throws IOException {
    Path keep = folder.resolveSibling("keep " + folder.getFileName());
    return Files.readString(keep.resolve(".kavrin/journal.jsonl")).contains("\"t\":\"program\"");
  }

  private static List<JsonNode> crashed(Api api) throws Exception {
    List<JsonNode> lines = new ArrayList<>();
    for (JsonNode project : api.get("api/overview").body().path("projects")) {
      project.path("documents").forEach(d -> lines.add(d));
    }
    return lines.stream().filter(d -> !d.path("incident").isMissingNode()).toList();
  }

  /** The desk recommends exactly what the program's own copy held, and it stands in the folder. */
  private static void assertFound(Api api, JsonNode document, Work work) throws Exception {
    JsonNode desk = api.get("api/documents/" + document.path("id").asString() + "/recovery").body();
    String best = desk.path("recommended").asString();
    List<byte[]> held = new ArrayList<>();
    for (JsonNode candidate : desk.path("candidates")) {
      Path path = Path.of(candidate.path("path").asString());
      if (candidate.path("state").asString().equals(best) && Files.exists(path)) {
        held.add(Files.readAllBytes(path));
      }
    }
    assertThat(held).isNotEmpty().allMatch(bytes -> java.util.Arrays.equals(bytes, work.autosaved));
    assertThat(secured(work)).as("secured in %s", work.keep()).isTrue();
  }

  private static boolean secured(Work work) throws IOException {
    try (var files = Files.walk(work.keep())) {
      for (Path file : files.filter(f -> f.toString().endsWith(".glb")).toList()) {
        if (java.util.Arrays.equals(Files.readAllBytes(file), work.autosaved)) {
          return true;
        }
      }
      return false;
    }
  }

  @Test
  void twoProgramsDieTogetherWithKavrinAndBothAreFound() throws Exception {
    try (Service service = new Service()) {
      settings(service);
      List<Work> works = new ArrayList<>();
      List<Path> folders =
          List.of(service.world().resolve("upper"), service.world().resolve("lower"));
      try (Program first = open(service, folders.get(0));
          Program second = open(service, folders.get(1))) {
        Api api = new Api(service.start());
        for (Path folder : folders) {
          keep(api, folder);
        }
        works.add(work(first, folders.get(0).resolve("deck.glb")));
        works.add(work(second, folders.get(1).resolve("deck.glb")));
        for (Path folder : folders) {
          await().atMost(Patience.LONG).until(() -> isSeenAtWork(folder));
        }
        service.kill();
        first.kill();
        second.kill();
      }
      Api after = new Api(service.start());
      await().atMost(Patience.LONG).untilAsserted(() -> assertThat(crashed(after)).hasSize(2));
      List<JsonNode> lines = crashed(after);
      assertThat(lines.get(0).at("/incident/id")).isNotEqualTo(lines.get(1).at("/incident/id"));
      for (JsonNode line : lines) {
        Work work =
            works.stream()
                .filter(w -> w.model().toString().equals(line.path("path").asString()))
                .findFirst()
                .orElseThrow();
        assertThat(line.at("/incident/kind").asString()).isEqualTo("crash");
        await().atMost(Patience.LONG).until(() -> secured(work));
        await().atMost(Patience.LONG).untilAsserted(() -> assertFound(after, line, work));
      }
    }
  }

  @Test
  void aCrashWhileTheDriveIsGoneIsTakenUpWhenItIsBack() throws Exception {
    try (Service service = new Service()) {
      settings(service);
      Path folder = service.world().resolve("carried");
      try (Drive drive = new Drive(service.world().resolve("stick"), folder)) {
        Work work;
        Api api = new Api(service.start());
        try (Program program = open(service, folder)) {
          keep(api, folder);
          work = work(program, folder.resolve("deck.glb"));
          await().atMost(Patience.LONG).until(() -> Files.exists(work.keep().resolve("carried")));
          drive.pull();
          program.kill();
        }
        await()
            .atMost(Patience.LONG)
            .untilAsserted(
                () ->
                    assertThat(
                            api.get("api/overview").body().at("/projects/0/workHere").asBoolean())
                        .isFalse());
        assertThat(crashed(api)).as("nothing is called lost while it is away").isEmpty();
        drive.plug();
        await().atMost(Patience.LONG).untilAsserted(() -> assertThat(crashed(api)).hasSize(1));
        await().atMost(Patience.LONG).until(() -> secured(work));
        await()
            .atMost(Patience.LONG)
            .untilAsserted(() -> assertFound(api, crashed(api).get(0), work));
      }
    }
  }
}
