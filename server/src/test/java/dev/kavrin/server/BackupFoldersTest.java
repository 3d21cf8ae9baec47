package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.as;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.InstanceOfAssertFactories.STRING;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/**
 * Several recovery folders through the whole service: added, away, caught up, left, after a
 * restart.
 */
class BackupFoldersTest {
  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private Path shelf() {
    return app.keep().resolveSibling("shelf");
  }

  private static long copies(Path folder) throws IOException {
    Path copies = folder.resolve("carriage");
    if (Files.notExists(copies)) {
      return 0;
    }
    try (Stream<Path> all = Files.list(copies)) {
      return all.filter(p -> p.toString().endsWith(".glb")).count();
    }
  }

  private static void untilCopies(Path folder, long count) {
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(copies(folder)).isEqualTo(count));
  }

  private void save(int n) throws IOException {
    app.write(app.live(), model("Frame", "Roof " + n));
  }

  private JsonNode project() throws Exception {
    return app.client().get("/api/projects").json().get(0);
  }

  private Client.Answer recovery(String what, Path folder) throws Exception {
    return app.client()
        .post(
            "/api/projects/" + project().at("/id").asString() + "/recoveries" + what,
            "{\"recovery\":\"" + folder + "\"}");
  }

  private Client.Answer keepNewest(int n) throws Exception {
    JsonNode project = project();
    String body =
        "{\"plan\":"
            + project.at("/plan").toString().replaceFirst("\"newest\":\\d+", "\"newest\":" + n)
            + ",\"program\":"
            + project.at("/program")
            + "}";
    return app.client()
        .put(
            "/api/projects/" + project.at("/id").asString(),
            project.at("/version").asString(),
            body);
  }

  @Test
  void copiesGoToEachFolderAndCountsHoldInEach() throws Exception {
    save(1);
    assertThat(app.project(1).status()).isEqualTo(200);
    untilCopies(app.keep(), 1);
    assertThat(recovery("", shelf()).status()).isEqualTo(200);
    untilCopies(shelf(), 1);
    Path drive = shelf().resolveSibling("drive");
    Files.move(shelf(), drive);
    Files.createDirectory(shelf());
    for (int n = 2; n <= 4; n++) {
      save(n);
      untilCopies(app.keep(), n);
    }
    assertThat(project().at("/recoveries/1/here").asBoolean()).isFalse();
    Files.delete(shelf());
    Files.move(drive, shelf());
    untilCopies(shelf(), 4);
    assertThat(keepNewest(2).status()).isEqualTo(200);
    untilCopies(app.keep(), 2);
    untilCopies(shelf(), 2);
  }

  @Test
  void everythingOpenIsOneMomentInEachFolder() throws Exception {
    save(1);
    app.write(app.work().resolve("carriage-03.glb"), model("Door"));
    app.write(app.work().resolve("gone.glb"), model("Lamp"));
    assertThat(app.project(3600).status()).isEqualTo(200);
    assertThat(recovery("", shelf()).status()).isEqualTo(200);
    await().atMost(Patience.LONG).until(() -> project().at("/recoveries/1/behind").isMissingNode());
    Files.delete(app.work().resolve("gone.glb"));
    JsonNode copied =
        app.client().post("/api/moments", "{\"note\":\"before the visit\",\"minutes\":60}").json();
    assertThat(copied.size()).isBetween(2, 3);
    assertThat(copies(app.keep())).isEqualTo(2);
    assertThat(copies(shelf())).isEqualTo(2);
    for (Path folder : List.of(app.keep(), shelf())) {
      assertThat(Files.readAllLines(folder.resolve(".kavrin/journal.jsonl")))
          .filteredOn(line -> line.contains("\"t\":\"moment\""))
          .singleElement(as(STRING))
          .contains("before the visit", app.document());
    }
    assertThat(app.client().post("/api/moments", "{\"minutes\":-1}").status()).isEqualTo(400);
  }

  @Test
  void movingOutOfAFolderEndsWithTheOtherAloneAndTheLastCannotBeLeft() throws Exception {
    save(1);
    assertThat(app.project(1).status()).isEqualTo(200);
    untilCopies(app.keep(), 1);
    assertThat(recovery("/leave", app.keep()).problem()).isEqualTo("last-folder");
    assertThat(recovery("", app.work().resolve("inside")).problem()).isEqualTo("unfit-folder");
    assertThat(recovery("", app.keep()).problem()).isEqualTo("in-use");
    assertThat(recovery("", app.keep().resolve("nested")).problem()).isEqualTo("unfit-folder");
    assertThat(recovery("", shelf()).status()).isEqualTo(200);
    untilCopies(shelf(), 1);
    assertThat(recovery("/leave", app.keep()).status()).isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(project().at("/recoveries").size()).isEqualTo(1));
    assertThat(project().at("/recovery").asString()).isEqualTo(shelf().toString());
    assertThat(copies(app.keep())).isZero();
    app.stop();
    app.start();
    save(2);
    untilCopies(shelf(), 2);
    assertThat(copies(app.keep())).isZero();
  }
}
