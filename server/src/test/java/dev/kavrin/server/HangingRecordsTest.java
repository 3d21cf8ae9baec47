package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.backups;
import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** A database that takes connections and answers nothing holds up no backup and hides no crash. */
class HangingRecordsTest {
  private static final Duration PAUSE =
      Duration.ofSeconds(Boolean.getBoolean("kavrin.full") ? 180 : 25);
  private static final Duration EVERY =
      Duration.ofSeconds(Boolean.getBoolean("kavrin.full") ? 20 : 5);

  @RegisterExtension private final RunningKavrin app = RunningKavrin.withPausableDatabase();

  @Test
  void backupsAreMadeAndACrashIsNoticedWhileItAnswersNothing() throws Exception {
    app.write(app.live(), model("hull"));
    assertThat(app.project(1).status()).isEqualTo(200);
    await().atMost(Patience.LONG).until(() -> backups(app.keep()) == 1);
    app.database().pause();
    long until = System.nanoTime() + PAUSE.toNanos();
    int made = 0;
    Duration longest = Duration.ZERO;
    while (System.nanoTime() < until) {
      String part = "plank" + ++made;
      long wrote = System.nanoTime();
      app.write(app.live(), model("hull", part));
      await().atMost(Patience.LONG).until(() -> isBackedUp(part));
      Duration took = Duration.ofNanos(System.nanoTime() - wrote);
      longest = took.compareTo(longest) > 0 ? took : longest;
      await().pollDelay(EVERY).atMost(EVERY.plusSeconds(30)).until(() -> true);
    }
    System.out.printf(
        "Database answered nothing for %d s: %d backups meanwhile, the latest %.1f s after its"
            + " write%n",
        PAUSE.toSeconds(), made, longest.toMillis() / 1e3);
    app.write(app.work().resolve(".drafts").resolve("carriage-02.rescue"), model("hull", "mast"));
    app.write(app.work().resolve(".carriage-02.open"), "left".getBytes(StandardCharsets.UTF_8));
    await().atMost(Patience.LONG).until(() -> !incidents().isEmpty());
    assertThat(database()).isEqualTo("DOWN");
    app.database().goOn();
    await().atMost(Patience.LONG).until(this::database, "UP"::equals);
    await().atMost(Patience.LONG).until(this::openIncidents, n -> n == 1);
    String versions = app.client().get("/api/documents/" + app.document() + "/versions").body();
    assertThat(versions).contains("CAPTURE");
  }

  private String database() throws Exception {
    return app.client().get("/actuator/health").json().at("/components/database/status").asString();
  }

  private int openIncidents() throws Exception {
    Client.Answer overview = app.client().get("/api/overview");
    String id = overview.status() == 200 ? overview.json().at("/projects/0/id").asString() : "";
    return id.isEmpty() ? -1 : app.client().get("/api/projects/" + id + "/incidents").json().size();
  }

  private boolean isBackedUp(String part) throws Exception {
    try (var all = Files.walk(app.keep())) {
      return all.filter(p -> p.toString().endsWith(".glb") && !p.toString().contains(".kavrin"))
          .anyMatch(p -> holds(p, part));
    }
  }

  private static boolean holds(Path file, String part) {
    try {
      return new String(Files.readAllBytes(file), StandardCharsets.ISO_8859_1)
          .contains('"' + part + '"');
    } catch (java.io.IOException vanished) {
      return false;
    }
  }

  private List<JournalEntry.IncidentSet> incidents() {
    return app.kavrin().bean(Engine.class).projects().stream()
        .map(Kept::folder)
        .flatMap(f -> f.history().incidents().stream())
        .toList();
  }
}
