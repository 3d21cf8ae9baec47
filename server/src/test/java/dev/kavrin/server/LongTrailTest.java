package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.naming.CaptureName;
import dev.kavrin.core.store.CaptureRecord;
import dev.kavrin.core.store.Journal;
import dev.kavrin.core.store.JournalEntry;
import dev.kavrin.core.store.RecoveryFolder;
import dev.kavrin.core.trail.Manifest;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/**
 * A document with more states than anybody looks through, as a journal of a year would hold it.
 * Times are printed and decide nothing.
 */
class LongTrailTest {
  private static final int STATES = Integer.getInteger("kavrin.states", 1_000);
  private static final int ASKED = 40;

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private JsonNode trail() throws Exception {
    return app.client().get("/api/documents/" + app.document() + "/trail").json();
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
        .isEqualTo(201);
    await()
        .atMost(Duration.ofSeconds(20))
        .untilAsserted(() -> assertThat(trail().at("/states/0/copies").size()).isEqualTo(2));
    app.stop();
    fill();
    app.start();
    await()
        .atMost(Duration.ofMinutes(5))
        .pollInterval(Duration.ofSeconds(1))
        .untilAsserted(() -> assertThat(trail().path("states").size()).isEqualTo(STATES + 1));
    Instant before = Instant.now();
    for (JsonNode state : trail().path("states")) {
      Instant work = Instant.parse(state.path("workTo").asString());
      assertThat(work).isBeforeOrEqualTo(before);
      before = work;
    }
    tell("the trail", "/api/documents/" + app.document() + "/trail");
    tell("the desk", "/api/documents/" + app.document() + "/desk");
    tell("the overview", "/api/overview");
  }

  /** The journal goes on as if a copy had been made every ten minutes, long ago. */
  private void fill() throws Exception {
    Path journal = RecoveryFolder.journalFile(app.keep());
    CaptureRecord first = null;
    for (JournalEntry entry : new Journal(new RealDisk(), journal).readAll().entries()) {
      if (entry instanceof JournalEntry.Captured made) {
        first = made.capture();
      }
    }
    assertThat(first).isNotNull();
    StringBuilder lines = new StringBuilder();
    Path folder = Path.of(first.path()).getParent();
    for (int n = 1; n <= STATES; n++) {
      Instant work = first.workTo().minusSeconds(600L * n);
      ContentId content = ContentHash.of("state " + n);
      String name =
          CaptureName.of("carriage-02.glb", n + 1, work.atOffset(ZoneOffset.UTC)).written();
      CaptureRecord capture =
          new CaptureRecord(
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
              Journal.MAPPER
                  .writerFor(JournalEntry.class)
                  .writeValueAsString(
                      new JournalEntry.Captured(Instant.now(), UUID.randomUUID(), capture)))
          .append('\n');
    }
    Files.writeString(journal, lines, StandardOpenOption.APPEND);
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
        "%d states: %s, %d kB, median %d ms, p95 %d ms, %s%n",
        STATES,
        what,
        bytes / 1000,
        sorted[sorted.length / 2],
        sorted[(int) (sorted.length * 0.95)],
        Arrays.toString(Arrays.copyOf(sorted, 3)));
  }
}
