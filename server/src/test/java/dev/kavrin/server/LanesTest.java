package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.backups;
import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.server.TroubledDisk.Trouble;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What goes wrong in one place stays there: every other project is watched and backed up. */
class LanesTest {

  private final TroubledDisk disk = new TroubledDisk();

  @RegisterExtension private final RunningKavrin app = RunningKavrin.over(disk);

  private Path work(String name) throws Exception {
    Path work = app.in(name);
    app.write(work.resolve("pier.glb"), model("pier", name));
    return work;
  }

  private JsonNode health(String part) throws Exception {
    return app.client().get("/actuator/health").json().path("components").path(part);
  }

  @Test
  void aBackupFolderWhoseCallsNeverReturnCostsOnlyItself() throws Exception {
    Path dead = app.in("keep-dead");
    Path well = app.in("keep-well");
    assertThat(app.project(work("harbour"), dead, 1).status()).isEqualTo(200);
    assertThat(app.project(work("bridge"), well, 1).status()).isEqualTo(200);
    await().atMost(Patience.LONG).until(() -> backups(dead) == 1 && backups(well) == 1);
    disk.befall(dead, Trouble.HANGS);
    for (int n = 2; n < 5; n++) {
      int wanted = n;
      app.write(app.in("bridge").resolve("pier.glb"), model("pier", "bridge", "span" + n));
      await().atMost(Patience.LONG).until(() -> backups(well) == wanted);
    }
    app.write(app.in("harbour").resolve("pier.glb"), model("pier", "harbour", "mole"));
    await()
        .atMost(Patience.LONG)
        .until(() -> health("folders").path("status").asString(), "IMPAIRED"::equals);
    assertThat(health("folders").at("/details").path(dead.toString()).asString())
        .contains("not answering");
    assertThat(app.client().get("/actuator/health").status()).isEqualTo(200);
    assertThat(backups(dead)).isEqualTo(1);
    disk.heal(dead);
    await().atMost(Patience.LONG).until(() -> backups(dead) == 2);
    await()
        .atMost(Patience.LONG)
        .until(() -> health("folders").path("status").asString(), "UP"::equals);
  }

  @Test
  void ofTwoBackupFoldersTheOneThatAnswersGoesOn() throws Exception {
    Path first = app.in("keep-first");
    Path second = app.in("keep-second");
    Client.Answer made = app.project(work("harbour"), first, 1);
    String id = made.json().path("id").asString();
    await().atMost(Patience.LONG).until(() -> backups(first) == 1);
    String added = "{\"recovery\":\"%s\"}".formatted(second);
    assertThat(app.client().post("/api/projects/" + id + "/recoveries", added).status())
        .isEqualTo(200);
    await().atMost(Patience.LONG).until(() -> backups(second) == 1);
    disk.befall(first, Trouble.HANGS);
    app.write(app.in("harbour").resolve("pier.glb"), model("pier", "harbour", "mole"));
    await().atMost(Patience.LONG).until(() -> backups(second) == 2);
    disk.heal(first);
    await().atMost(Patience.LONG).until(() -> backups(first) == 2);
  }

  @Test
  void whatThrowsInSomeOfManyProjectsReachesNoOther() throws Exception {
    int count = Boolean.getBoolean("kavrin.full") ? 86 : 12;
    for (int n = 0; n < count; n++) {
      assertThat(app.project(work("work-" + n), app.in("keep-" + n), 1).status()).isEqualTo(200);
    }
    disk.befall(app.in("work-3"), Trouble.THROWS);
    disk.befall(app.in("work-4"), Trouble.ENDS_WITH_AN_ERROR);
    disk.befall(app.in("keep-5"), Trouble.THROWS);
    for (int n = 0; n < count; n++) {
      app.write(app.in("work-" + n).resolve("pier.glb"), model("pier", "new", "work-" + n));
    }
    for (int n = 6; n < count; n++) {
      Path keep = app.in("keep-" + n);
      await().atMost(Patience.LONG).until(() -> backups(keep) >= 1 && changedIn(keep));
    }
    assertThat(health("watch").path("status").asString()).isEqualTo("IMPAIRED");
    assertThat(health("watch").at("/details/failing").toString()).contains("work-3", "work-4");
    disk.heal(app.in("work-3"));
    disk.heal(app.in("work-4"));
    await()
        .atMost(Patience.LONG)
        .until(() -> changedIn(app.in("keep-3")) && changedIn(app.in("keep-4")));
  }

  private static boolean changedIn(Path keep) throws Exception {
    try (var all = Files.walk(keep)) {
      return all.filter(p -> p.toString().endsWith(".glb") && !p.toString().contains(".kavrin"))
          .anyMatch(LanesTest::isNew);
    }
  }

  private static boolean isNew(Path file) {
    try {
      return new String(Files.readAllBytes(file), java.nio.charset.StandardCharsets.ISO_8859_1)
          .contains("\"new\"");
    } catch (java.io.IOException vanished) {
      return false;
    }
  }

  @Test
  void whatCannotBeLookedIntoIsNotGone() throws Exception {
    Path drafts = app.work().resolve(".drafts");
    app.write(app.live(), model("hull"));
    app.write(drafts.resolve("carriage-02~1.tmp"), model("hull", "mast"));
    assertThat(app.project(1).status()).isEqualTo(200);
    String versions = "/api/documents/" + app.document() + "/versions";
    await().atMost(Patience.LONG).until(() -> kinds(versions).contains("AUTOSAVE"));
    disk.befall(drafts, Trouble.CANNOT_BE_LISTED);
    app.write(app.live(), model("hull", "deck"));
    await().atMost(Patience.LONG).until(() -> backups(app.keep()) == 2);
    await()
        .during(Duration.ofSeconds(7))
        .atMost(Patience.LONG)
        .until(() -> kinds(versions).contains("AUTOSAVE"));
    Files.delete(drafts.resolve("carriage-02~1.tmp"));
    disk.heal(drafts);
    await().atMost(Patience.LONG).until(() -> !kinds(versions).contains("AUTOSAVE"));
  }

  private String kinds(String versions) throws Exception {
    StringBuilder kinds = new StringBuilder();
    app.client()
        .get(versions)
        .json()
        .path("states")
        .forEach(
            s ->
                s.path("copies").forEach(c -> kinds.append(c.path("kind").asString()).append(' ')));
    return kinds.toString();
  }
}
