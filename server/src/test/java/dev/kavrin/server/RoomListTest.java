package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.backups;
import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.disk.RealDisk;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What is said to take the room is what the disk says. */
class RoomListTest {

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private static final long GB = 1_000_000_000;

  private JsonNode taken(String kind) throws Exception {
    for (JsonNode disk : app.client().get("/api/room").json()) {
      assertThat(disk.path("capacity").asLong()).isGreaterThan(disk.path("free").asLong());
      for (JsonNode line : disk.path("lines")) {
        if (line.path("kind").asString().equals(kind)) {
          return line;
        }
      }
    }
    throw new AssertionError("Nothing is said of " + kind + ".");
  }

  private static long onDisk(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(p -> p.toString().endsWith(".glb"))
          .mapToLong(p -> p.toFile().length())
          .sum();
    }
  }

  @Test
  void backupsAndWhatGoingWithoutThemWouldFree() throws Exception {
    app.write(app.live(), model("Frame"));
    assertThat(app.project(1).status()).isEqualTo(200);
    for (int n = 2; n <= 4; n++) {
      int made = n - 1;
      await()
          .atMost(Patience.LONG)
          .untilAsserted(() -> assertThat(backups(app.keep())).isEqualTo(made));
      app.write(app.live(), model("Frame", "Roof".repeat(n)));
    }
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(backups(app.keep())).isEqualTo(4));
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(taken("BACKUPS").path("files").asInt()).isEqualTo(4));
    JsonNode line = taken("BACKUPS");
    assertThat(line.path("bytes").asLong()).isEqualTo(onDisk(app.keep()));
    long newest = Files.size(app.live());
    assertThat(line.path("frees").asLong())
        .as("all but the newest whole one")
        .isEqualTo(line.path("bytes").asLong() - newest);
    assertThat(line.path("thenReaches").asString()).isGreaterThan(line.path("reaches").asString());
    assertThat(taken("RECORDS").path("bytes").asLong()).isGreaterThan(1_000_000);
  }

  /** What a limit drops is shown first; then it holds, over a restart too. */
  @Test
  void aDisksLimitIsShownThenHeldForAllThatLiesOnIt() throws Exception {
    app.write(app.live(), model("Frame"));
    assertThat(app.project(1).status()).isEqualTo(200);
    for (int n = 2; n <= 4; n++) {
      int made = n - 1;
      await().atMost(Patience.LONG).until(() -> backups(app.keep()) == made);
      app.write(app.live(), model("Frame", "Roof".repeat(n)));
    }
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(taken("BACKUPS").path("files").asInt())
                    .as("a file is on the disk before its backup counts")
                    .isEqualTo(4));
    String disk = app.client().get("/api/room").json().at("/0/disk").asString();
    long newest = Files.size(app.live());
    String wish = "{\"disk\":\"%s\",\"bytes\":%d%s}";
    JsonNode shown =
        app.client().post("/api/room/limit/preview", wish.formatted(disk, 2 * newest, "")).json();
    assertThat(shown.path("drops").asInt()).isEqualTo(3);
    assertThat(shown.path("taken").asLong()).isEqualTo(onDisk(app.keep()));
    assertThat(shown.path("stays").asLong()).isEqualTo(newest);
    assertThat(backups(app.keep())).as("only shown").isEqualTo(4);
    assertThat(
            app.client()
                .post("/api/room/limit/preview", wish.formatted("no such disk", 1, ""))
                .status())
        .isEqualTo(422);

    String digest = ",\"digest\":\"" + shown.path("digest").asString() + "\"";
    Client.Answer begun =
        app.client().put("/api/room/limit", "any", wish.formatted(disk, 2 * newest, digest));
    assertThat(begun.status()).isEqualTo(202);
    assertThat(app.client().ended(begun).status()).isEqualTo(200);
    assertThat(backups(app.keep())).isEqualTo(1);
    assertThat(app.client().get("/api/room").json().at("/0/limit").asLong()).isEqualTo(2 * newest);

    app.stop();
    app.start();
    assertThat(app.client().get("/api/room").json().at("/0/limit").asLong()).isEqualTo(2 * newest);
  }

  @Test
  void whatADiskLostBeforeARestartIsKnownAfterIt() throws Exception {
    app.write(app.live(), model("Frame"));
    assertThat(app.project(1).status()).isEqualTo(200);
    RealDisk disk = new RealDisk();
    String device = disk.device(app.work());
    long free = disk.room(app.work());
    long capacity = disk.capacity(app.work());
    String seen =
        "insert into free_room (device, capacity, seen, free) values"
            + " ('%s', %d, now() - interval '%d minutes', %d)";
    app.database().run(seen.formatted(device, capacity - 1, 180, 900 * GB));
    app.database().run(seen.formatted(device, capacity, 120, free + 200 * GB));
    app.database().run(seen.formatted(device, capacity, 60, free + 100 * GB));
    app.stop();
    app.start();
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(app.client().get("/api/room").json().at("/0/grownPerHour").asLong())
                    .as("a disk of another size says nothing of this one")
                    .isBetween(90 * GB, 110 * GB));
  }
}
