package dev.kavrin.server.notification;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.server.Patience;
import dev.kavrin.server.RunningKavrin;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.program.ProgramAudits;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** A real process whose settings file says another thing than wanted. */
class ProgramNewsTest {
  private static final Instant NOON = Instant.parse("2031-03-04T12:00:00Z");

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private final Round.Standing standing = new Round.Standing();

  private List<News> told(ProgramNews source) {
    Round round = new Round(NOON, standing);
    source.look(app.kavrin().bean(Engine.class).projects(), round);
    return round.end();
  }

  private boolean runs() {
    return app.kavrin().bean(Engine.class).projects().stream()
        .anyMatch(kept -> !kept.incidents().instances().isEmpty());
  }

  @Test
  void lostSettingsAreToldOnceAndOnlyIfTheyWereAsWantedBefore() throws Exception {
    String name = "modeller-" + UUID.randomUUID().toString().substring(0, 8);
    app.write(app.live(), RunningKavrin.model("Frame"));
    Path settings = app.in("tools").resolve("modeller.properties");
    app.write(settings, "safety.minutes=20\n".getBytes());
    app.project(name, settings, Duration.ofMinutes(5));
    ProgramNews source = new ProgramNews(app.kavrin().bean(ProgramAudits.class));
    Process program = new ProcessBuilder("bash", "-c", "exec -a " + name + " sleep 600").start();
    try {
      await().atMost(Patience.LONG).until(this::runs);
      assertThat(told(source)).as("it never had others").isEmpty();
      Files.writeString(settings, "safety.minutes=4\n");
      assertThat(told(source)).as("as wanted").isEmpty();
      Files.writeString(settings, "safety.minutes=20\n");
      assertThat(told(source))
          .singleElement()
          .satisfies(
              news -> {
                assertThat(news.kind()).isEqualTo(Kind.OWN_SAFETY_OFF);
                assertThat(news.title())
                    .isEqualTo("Tarn Modeller lost the settings of its autosave");
                assertThat(news.words())
                    .contains("as wanted before", "is 20 min, wanted: at most 5 min");
              });
      assertThat(told(source)).as("told once").isEmpty();
      Files.writeString(settings, "safety.minutes=30\n");
      assertThat(told(source)).as("still lost").isEmpty();
      Files.writeString(settings, "safety.minutes=5\n");
      assertThat(told(source)).isEmpty();
      Files.writeString(settings, "safety.minutes=30\n");
      assertThat(told(source)).as("lost again").hasSize(1);
    } finally {
      program.destroyForcibly().waitFor();
    }
    Files.writeString(settings, "safety.minutes=5\n");
    assertThat(told(source)).isEmpty();
    await().atMost(Patience.LONG).until(() -> !runs());
    Files.writeString(settings, "safety.minutes=30\n");
    assertThat(told(source)).as("nobody works with it").isEmpty();
  }

  @Test
  void settingsNobodyCanReadAreAskedForAgainAfterAnUpdate() throws Exception {
    Path program =
        app.in("tools").resolve("modeller-" + UUID.randomUUID().toString().substring(0, 8));
    install(program);
    app.write(app.live(), RunningKavrin.model("Frame"));
    app.project(program.toString());
    UUID project = app.kavrin().bean(Engine.class).projects().iterator().next().project().id();
    ProgramNews source = new ProgramNews(app.kavrin().bean(ProgramAudits.class));

    app.lookedUp("{\"enabled\": true, \"interval\": \"PT20M\"}", "{\"interval\": \"PT5M\"}");
    Process before = new ProcessBuilder(program.toString(), "600").start();
    try {
      await().atMost(Patience.LONG).until(this::runs);
      assertThat(told(source)).as("looked up as it is").isEmpty();
      assertThat(app.program(project).path("lines").get(0).path("words").asString())
          .isEqualTo("time between its autosaves is 20 min, wanted: at most 5 min");
      assertThat(app.program(project).path("updated").isMissingNode()).isTrue();
    } finally {
      before.destroyForcibly().waitFor();
    }

    await().atMost(Patience.LONG).until(() -> !runs());
    install(program);
    Process updated = new ProcessBuilder(program.toString(), "600").start();
    try {
      await().atMost(Patience.LONG).until(this::runs);
      assertThat(told(source))
          .singleElement()
          .satisfies(
              news ->
                  assertThat(news.title())
                      .isEqualTo("Look at the autosave settings of Tarn Modeller again"));
      assertThat(told(source)).as("told once").isEmpty();
      assertThat(app.program(project).path("updated").asString()).isNotEmpty();
      app.lookedUp("{\"enabled\": false}", "{\"enabled\": true}");
      assertThat(told(source))
          .as("looked up again, and off by now")
          .singleElement()
          .satisfies(
              news -> {
                assertThat(news.title()).isEqualTo("The own autosave of Tarn Modeller is off");
                assertThat(news.words()).endsWith("set it in the program.");
              });
      assertThat(app.program(project).path("updated").isMissingNode()).isTrue();
    } finally {
      updated.destroyForcibly().waitFor();
    }
  }

  /** A program that does nothing, put there anew. */
  private static void install(Path program) throws Exception {
    Files.createDirectories(program.getParent());
    Files.copy(Path.of("/bin/sleep"), program, StandardCopyOption.REPLACE_EXISTING);
    program.toFile().setExecutable(true, false);
  }
}
