package dev.kavrin.server.notification;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.server.Patience;
import dev.kavrin.server.RunningKavrin;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.platform.PathGuard;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** A real process works on a real file that no project backs up. */
class UnplannedNewsTest {
  private static final Instant NOON = Instant.parse("2031-03-04T12:00:00Z");

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private final Round.Standing standing = new Round.Standing();

  private List<News> told(UnplannedNews source, int minute) {
    Round round = new Round(NOON.plus(Duration.ofMinutes(minute)), standing);
    source.look(app.kavrin().bean(Engine.class).projects(), round);
    return round.end();
  }

  @Test
  void isToldOnceItWasWorkedOnWithTheFolderItBelongsIn() throws Exception {
    String name = "modeller-" + UUID.randomUUID().toString().substring(0, 8);
    app.write(app.live(), RunningKavrin.model("Frame"));
    Path bell = app.in("Downloads").resolve("bell.glb");
    app.write(bell, RunningKavrin.model("Bell"));
    app.project(name);
    UnplannedNews source =
        new UnplannedNews(app.kavrin().bean(Disk.class), app.kavrin().bean(PathGuard.class));
    Process program =
        new ProcessBuilder("bash", "-c", "exec -a " + name + " tail -f \"$0\"", bell.toString())
            .redirectOutput(Files.createTempFile("kavrin-program", ".out").toFile())
            .start();
    try {
      await()
          .atMost(Patience.LONG)
          .until(
              () ->
                  app.kavrin().bean(Engine.class).projects().stream()
                      .flatMap(kept -> kept.incidents().instances().stream())
                      .anyMatch(i -> i.open().contains(bell)));
      assertThat(told(source, 0)).as("perhaps only looked at").isEmpty();
      assertThat(told(source, 6))
          .singleElement()
          .satisfies(
              news -> {
                assertThat(news.kind()).isEqualTo(Kind.UNPLANNED);
                assertThat(news.title()).isEqualTo("bell.glb is backed up by nobody");
                assertThat(news.path()).isEqualTo(app.live().getParent().toString());
                assertThat(news.about().view()).startsWith("/start?folder=%2F");
              });
      assertThat(told(source, 12)).as("told once").isEmpty();
    } finally {
      program.destroyForcibly().waitFor();
    }
  }
}
