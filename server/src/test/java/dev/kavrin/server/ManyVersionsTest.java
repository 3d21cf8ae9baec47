package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.naming.BackupName;
import dev.kavrin.core.version.Manifest;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/**
 * A document with more states than anybody looks through, as a journal of a year would hold it.
 * Times are printed and decide nothing.
 */
@Tag("full")
class ManyVersionsTest {
  private static final int STATES = Integer.getInteger("kavrin.states", 1_000);
  private static final int ASKED = 120;

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private JsonNode trail() throws Exception {
    return app.client().get("/api/documents/" + app.document() + "/versions").json();
  }

  /** All states, page by page as the screen asks for them. */
  private List<JsonNode> states() throws Exception {
    List<JsonNode> states = new ArrayList<>();
    int before = -1;
    for (int page = 0; states.size() > before; page++) {
      before = states.size();
      app.client()
          .get("/api/documents/" + app.document() + "/versions/page?page=" + page)
          .json()
          .forEach(states::add);
    }
    return states;
  }

  @Test
  void allStatesAreShownInOrder() throws Exception {
    app.write(app.live(), model("Frame"));
    assertThat(
            app.client()
                .post(
                    "/api/projects",
                    """
                    {"name":"Carriage","folder":"%s","rule":["*.glb"],"recovery":"%s",
                     "plan":{"interval":"PT1S","quiet":"PT2S","hardLimit":"PT60S","accepted":"PT30M",
                      "keep":{"newest":20000,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0}}}
                    """
                        .formatted(app.work(), app.keep()))
                .status())
        .isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(trail().at("/states/0/copies").size()).isEqualTo(2));
    app.stop();
    fill();
    app.start();
    await()
        .atMost(Duration.ofMinutes(8))
        .pollInterval(Duration.ofSeconds(1))
        .untilAsserted(
            () ->
                assertThat(states())
                    .hasSize(STATES + 1)
                    .allMatch(s -> s.path("parts").asInt() == 1));
    List<JsonNode> states = states();
    Instant before = Instant.now();
    for (JsonNode state : states) {
      Instant work = Instant.parse(state.path("workTo").asString());
      assertThat(work).isBeforeOrEqualTo(before);
      before = work;
    }
    everythingIsAccountedFor(states);
    tell("the trail", "/api/documents/" + app.document() + "/versions");
    tell("the desk", "/api/documents/" + app.document() + "/recovery");
    tell("the overview", "/api/overview");
  }

  /** What the trail shows in full and what it gathers come to all copies, each once. */
  private void everythingIsAccountedFor(List<JsonNode> states) throws Exception {
    JsonNode trail = trail();
    int first = trail.path("states").size();
    assertThat(trail.path("states").valueStream().map(s -> s.path("id")))
        .containsExactlyElementsOf(
            states.subList(0, first).stream().map(s -> s.path("id")).toList());
    assertThat(trail.at("/count/states").asInt()).isEqualTo(states.size());
    assertThat(trail.path("older").valueStream().mapToInt(g -> g.path("copies").asInt()).sum())
        .isEqualTo(
            states.subList(first, states.size()).stream()
                .mapToInt(s -> s.path("copies").size())
                .sum());
    for (JsonNode gathered : trail.path("older")) {
      assertThat(states.get(gathered.path("index").asInt()).path("id"))
          .isEqualTo(gathered.path("state"));
    }
  }

  /** The journal goes on as if a copy had been made every ten minutes, long ago. */
  private void fill() throws Exception {
    Path journal = BackupFolder.journalFile(app.keep());
    BackupRecord first = null;
    for (JournalEntry entry : new Journal(new RealDisk(), journal).readAll().entries()) {
      if (entry instanceof JournalEntry.Done made
          && made.operation().planned() instanceof Operation.Backup backup) {
        first = backup.backup();
      }
    }
    assertThat(first).isNotNull();
    StringBuilder lines = new StringBuilder();
    Path folder = Path.of(first.path()).getParent();
    for (int n = 1; n <= STATES; n++) {
      Instant work = first.workTo().minusSeconds(600L * n);
      byte[] bytes = model("Frame " + n);
      ContentId content = ContentHash.of(bytes);
      String name =
          BackupName.of("carriage-02.glb", n + 1, work.atOffset(ZoneOffset.UTC)).written();
      Files.write(app.keep().resolve(folder).resolve(name), bytes);
      BackupRecord capture =
          new BackupRecord(
              first.document(),
              first.kind(),
              folder.resolve(name).toString(),
              Manifest.ofFile(content).digest(),
              content,
              first.source(),
              first.sourceKind(),
              work,
              work,
              n + 1,
              "due",
              null,
              true,
              first.verdict(),
              first.findings(),
              first.millis(),
              null,
              List.of());
      lines
          .append(
              line(
                  new JournalEntry.Written(
                      Instant.now(), first.document(), work, content.length(), content)))
          .append(
              line(
                  new JournalEntry.Done(
                      Instant.now(), Operation.of(new Operation.Backup(capture)))));
    }
    Files.writeString(journal, lines, StandardOpenOption.APPEND);
  }

  private static String line(JournalEntry entry) {
    return Journal.MAPPER.writerFor(JournalEntry.class).writeValueAsString(entry) + "\n";
  }

  private void tell(String what, String path) throws Exception {
    List<Long> took = new ArrayList<>();
    long bytes = 0;
    for (int i = 0; i < ASKED; i++) {
      long start = System.nanoTime();
      Client.Answer answer = app.client().get(path);
      took.add((System.nanoTime() - start) / 1_000_000);
      assertThat(answer.status()).isEqualTo(200);
      bytes = answer.body().length();
    }
    long[] sorted = took.stream().skip(ASKED / 4).mapToLong(t -> t).sorted().toArray();
    System.out.printf(
        "%d versions: %s, %d kB, median %d ms, p95 %d ms, %s%n",
        STATES,
        what,
        bytes / 1000,
        sorted[sorted.length / 2],
        sorted[(int) (sorted.length * 0.95)],
        Arrays.toString(Arrays.copyOf(sorted, 3)));
  }
}
