package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** A program's own settings: looked at, put right, taken back; or looked at only. */
class OwnSettingsTest {
  @RegisterExtension static final RunningKavrin APP = new RunningKavrin();

  /** Makes a project whose program has its settings there; its address. */
  private static String linked(Path settings, String kind, String on, String minutes)
      throws Exception {
    APP.write(APP.live(), RunningKavrin.model("Frame"));
    Client.Answer made =
        APP.client()
            .post(
                "/api/projects",
                """
                {"name":"Carriage","folder":"%s","rule":["*.glb"],"recovery":"%s",
                 "program":{"name":"Tarn Modeller","process":"no-process-has-these-words",
                   "leftovers":[],"settings":{"file":"%s","kind":"%s",
                     "keys":{"ENABLED":"%s","INTERVAL":"%s"},"unit":"MINUTES",
                     "wanted":{"enabled":true,"interval":"PT10M"}}},
                 "plan":{"interval":"PT10M","quiet":"PT2S","hardLimit":"PT60S","keep":{"newest":5,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}}
                """
                    .formatted(APP.work(), APP.keep(), settings, kind, on, minutes));
    assertThat(made.status()).as(made.body()).isLessThan(300);
    for (JsonNode project : APP.client().get("/api/projects").json()) {
      if (project.path("folder").asString().equals(APP.work().toString())) {
        return "/api/projects/" + project.path("id").asString() + "/program";
      }
    }
    throw new AssertionError("No project of " + APP.work());
  }

  @Test
  void whatIsOffIsPutRightByteByByteAndTakenBack() throws Exception {
    Path settings = APP.in("tools/modeller.properties");
    String before = "# as Ilse likes it\nsafety.on = false\r\ncolour=clay\nsafety.minutes: 30\n";
    APP.write(settings, before.getBytes(StandardCharsets.UTF_8));
    String program = linked(settings, "PROPERTIES", "safety.on", "safety.minutes");
    JsonNode seen = APP.client().get(program).json();
    assertThat(seen.path("off").asBoolean()).isTrue();
    assertThat(seen.path("onlyRead").asBoolean()).isFalse();
    assertThat(seen.path("mayPut").asBoolean()).isFalse();
    String digest = "{\"digest\":\"%s\",\"insist\":false}".formatted(seen.at("/digest").asString());
    assertThat(APP.client().post(program + "/right", digest).problem())
        .isEqualTo("no-settings-place");
    assertThat(settings).hasContent(before);

    assertThat(APP.client().post(program + "/allow", "").json().path("mayPut").asBoolean())
        .isTrue();
    assertThat(APP.client().post(program + "/right", digest).status()).isEqualTo(200);
    assertThat(Files.readString(settings))
        .isEqualTo(before.replace("false", "true").replace("30", "10"));
    assertThat(APP.client().post(program + "/right", digest).problem())
        .isEqualTo("changed-meanwhile");
    assertThat(APP.client().post(program + "/undo", "").status()).isEqualTo(200);
    assertThat(Files.readString(settings)).isEqualTo(before);
  }

  @Test
  void aDatabaseOfSettingsIsReadAndNeverWritten() throws Exception {
    Path settings = APP.in("tools/modeller.db");
    Files.createDirectories(settings.getParent());
    try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + settings);
        Statement s = c.createStatement()) {
      s.execute("create table preference (name text, value text)");
      s.execute("insert into preference values ('safety', 'off'), ('minutes', '30')");
    }
    byte[] before = Files.readAllBytes(settings);
    String program = linked(settings, "SQLITE", "preference/safety", "preference/minutes");
    JsonNode seen = APP.client().get(program).json();
    assertThat(seen.path("off").asBoolean()).as(seen.toString()).isTrue();
    assertThat(seen.path("onlyRead").asBoolean()).isTrue();
    assertThat(seen.at("/lines").toString()).contains("30");
    APP.client().post(program + "/allow", "");
    Client.Answer refused =
        APP.client()
            .post(
                program + "/right",
                "{\"digest\":\"%s\",\"insist\":true}".formatted(seen.at("/digest").asString()));
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.problem()).isEqualTo("settings-only-read");
    assertThat(Files.readAllBytes(settings)).isEqualTo(before);
  }
}
