package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.backups;
import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** How the records follow the journals, and the pages the records. */
class RecordsTest {

  @RegisterExtension private final RunningKavrin app = new RunningKavrin();

  @BeforeEach
  void aProjectWithABackup() throws Exception {
    app.write(app.live(), model("hull"));
    assertThat(app.project(1).status()).isEqualTo(200);
    await().atMost(Patience.LONG).until(() -> backups(app.keep()) == 1);
  }

  private String versions() throws Exception {
    return app.client().get("/api/documents/" + app.document() + "/versions").body();
  }

  /** A line about a document nobody knows fits no record; what comes after it is taken in. */
  @Test
  void aLineThatFitsNoRecordIsPassedOver() throws Exception {
    Journal journal = new Journal(new RealDisk(), app.keep().resolve(".kavrin/journal.jsonl"));
    for (int n = 0; n < 3; n++) {
      journal.append(
          List.of(
              new JournalEntry.Marked(
                  Instant.now(), UUID.randomUUID(), "nobody", "pinned", true, "Ilse Quarn", null)));
    }
    app.write(app.live(), model("hull", "deck"));
    await().atMost(Patience.LONG).until(() -> backups(app.keep()) == 2);
    await().atMost(Patience.LONG).until(() -> versions().split("\"CAPTURE\"", -1).length > 2);
    assertThat(app.kavrin().bean(JournalFollower.class).follow()).isTrue();
  }

  /**
   * Two transactions in each other's way say nothing of a line: it is taken in once they are not.
   */
  @Test
  void aLineThatMeetsADeadlockIsTakenInAfterwards() throws Exception {
    app.database()
        .run(
            """
            create sequence met;
            create function meet() returns trigger language plpgsql as $$
            begin
              if nextval('met') <= 9 then
                raise exception 'deadlock detected' using errcode = '40P01';
              end if;
              return new;
            end $$;
            create trigger meets before insert on copy for each row execute function meet();
            """);
    app.write(app.live(), model("hull", "deck"));
    await().atMost(Patience.LONG).until(() -> backups(app.keep()) == 2);
    await().atMost(Patience.LONG).until(() -> app.database().count("met", "last_value > 9") == 1);
    await().atMost(Patience.LONG).until(() -> versions().split("\"CAPTURE\"", -1).length > 2);
  }

  /** What newer checks judge otherwise is judged so in the list and by the keep rules alike. */
  @Test
  void whatOlderChecksJudgedIsReadAgainAndItsJournalIsTold() throws Exception {
    BackupFolder folder =
        app.kavrin().bean(Engine.class).projects().iterator().next().folders().first();
    await().atMost(Patience.LONG).until(() -> verdict(folder) == Verdict.INTACT);
    await().atMost(Patience.LONG).until(() -> versions().contains("\"verdict\":\"INTACT\""));
    await()
        .atMost(Patience.LONG)
        .until(() -> app.database().count("content", "inventory is null") == 0);
    String path = folder.history().allCaptures().get(0).path();
    folder.record(
        new JournalEntry.Judged(Instant.now(), path, Verdict.DAMAGED, "as older checks had it"));
    assertThat(verdict(folder)).isEqualTo(Verdict.DAMAGED);
    app.database().run("update content set checks = 0, verdict = 'DAMAGED'");
    await().atMost(Patience.LONG).until(() -> verdict(folder) == Verdict.INTACT);
    await().atMost(Patience.LONG).until(() -> versions().contains("\"verdict\":\"INTACT\""));

    Path file = folder.absolute(path);
    byte[] rotten = Files.readAllBytes(file);
    rotten[rotten.length - 5] ^= 1;
    Files.write(file, rotten);
    folder.record(new JournalEntry.Judged(Instant.now(), path, Verdict.DAMAGED, "it rotted"));
    app.database().run("update content set checks = 0");
    await().atMost(Patience.LONG).until(() -> app.database().count("content", "checks = 0") == 0);
    assertThat(verdict(folder)).as("the live file says nothing of it").isEqualTo(Verdict.DAMAGED);
  }

  private static Verdict verdict(BackupFolder folder) {
    return folder.history().allCaptures().get(0).verdict();
  }

  /** Where the drive was is nothing of ours: it is found again as it was when it returns. */
  @Test
  void nothingIsPutWhereADriveWillComeBack() throws Exception {
    Path away = app.in("drive-in-a-drawer");
    Files.move(app.keep(), away);
    Files.createDirectory(app.keep());
    await().atMost(Patience.LONG).until(() -> !here());
    app.write(app.live(), model("hull", "deck"));
    await()
        .during(Duration.ofSeconds(4))
        .atMost(Patience.LONG)
        .until(() -> Files.list(app.keep()).count() == 0);
    Files.delete(app.keep());
    Files.move(away, app.keep());
    await().atMost(Patience.LONG).until(this::here);
    await().atMost(Patience.LONG).until(() -> backups(app.keep()) == 2);
  }

  private boolean here() throws Exception {
    JsonNode project = app.client().get("/api/overview").json().at("/projects/0");
    return project.path("recoveryHere").asBoolean();
  }

  /** Who looked before somebody else changed the plan is told so, and changes nothing. */
  @Test
  void ofTwoWhoChangeAPlanAtOnceOneIsTold() throws Exception {
    JsonNode project = app.client().get("/api/projects").json().get(0);
    String path = "/api/projects/" + project.path("id").asString();
    String body =
        "{\"plan\":%s,\"program\":%s}".formatted(project.path("plan"), project.path("program"));
    String version = project.path("version").toString();
    int[] answers =
        java.util.stream.IntStream.range(0, 4)
            .parallel()
            .map(n -> put(path, version, body))
            .sorted()
            .toArray();
    assertThat(answers).containsExactly(200, 412, 412, 412);
    assertThat(app.client().put(path, "seven", body).status()).isEqualTo(422);
    assertThat(app.client().put("/api/projects/" + UUID.randomUUID(), version, body).status())
        .isEqualTo(404);
    assertThat(app.client().get("/api/projects/" + UUID.randomUUID() + "/watch").status())
        .isEqualTo(404);
  }

  private int put(String path, String version, String body) {
    try {
      return app.client().put(path, version, body).status();
    } catch (Exception failed) {
      throw new IllegalStateException(failed);
    }
  }
}
