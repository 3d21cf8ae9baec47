package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What was set is carried as one file; nothing in it has authority of its own. */
class TransferTest {
  @RegisterExtension static final RunningKavrin app = new RunningKavrin();

  private JsonNode compared(String document) throws Exception {
    Client.Answer answer =
        app.client().post("/api/settings/compare", "{\"document\":" + document + "}");
    assertThat(answer.status()).as(answer.json().toString()).isEqualTo(200);
    return answer.json();
  }

  private static List<String> words(JsonNode lines) {
    return StreamSupport.stream(lines.spliterator(), false).map(JsonNode::asString).toList();
  }

  @Test
  void whatIsExportedIsTheSameHereAndWhatWasChangedIsShownThenTaken() throws Exception {
    app.write(app.live(), RunningKavrin.model("Frame"));
    String id = app.project(600).json().path("id").asString();
    String exported = app.client().get("/api/settings").json().toString();
    JsonNode same = compared(exported);
    assertThat(words(same.at("/projects/0/changes"))).isEmpty();
    assertThat(words(same.path("usual"))).isEmpty();
    String changed =
        exported
            .replaceAll("(?<keep>\"keep\":\\{[^}]*\"newest\":)5", "${keep}9")
            .replace("\"folder\":\".drafts\"", "\"folder\":\"/etc\"");
    JsonNode difference = compared(changed);
    assertThat(words(difference.at("/projects/0/changes"))).contains("keep newest: 5 → 9");
    assertThat(words(difference.at("/projects/0/untaken")))
        .anyMatch(w -> w.startsWith("/etc: confirm that path by hand"));
    Client.Answer taken =
        app.client()
            .post(
                "/api/settings/take",
                "{\"document\":"
                    + changed
                    + ",\"usual\":false,\"telling\":false,\"projects\":[\"Carriage\"]}");
    assertThat(taken.status()).isEqualTo(200);
    JsonNode now = app.client().get("/api/projects/" + id).json();
    assertThat(now.at("/plan/keep/newest").asInt()).isEqualTo(9);
    assertThat(now.path("program").toString()).doesNotContain("/etc").contains(".drafts");
    JsonNode versions = app.client().get("/api/projects/" + id + "/plan/versions").json();
    assertThat(words(versions.at("/0/changes"))).containsExactly("keep newest: 5 → 9");
    assertThat(versions.at("/1/plan/keep/newest").asInt()).isEqualTo(5);
  }

  @Test
  void whatDoesNotFitTheSchemaIsRefusedInWords() throws Exception {
    for (String bad :
        List.of(
            "{}",
            "{\"format\":\"other\",\"version\":1,\"projects\":[]}",
            "{\"format\":\"kavrin-settings\",\"version\":1,\"projects\":[{\"name\":\"x\"}]}",
            "{\"format\":\"kavrin-settings\",\"version\":1,\"projects\":[],\"more\":1}")) {
      Client.Answer refused =
          app.client().post("/api/settings/compare", "{\"document\":" + bad + "}");
      assertThat(refused.status()).as(bad).isEqualTo(422);
      assertThat(refused.json().path("detail").asString()).endsWith("Nothing was changed.");
    }
    assertThat(app.client().get("/api/settings/schema").json().path("title").asString())
        .startsWith("Everything set");
  }

  @Test
  void newProjectsGetTheUsualPlan() throws Exception {
    JsonNode defaults = app.client().get("/api/plans/defaults").json();
    assertThat(defaults.path("usual")).isEqualTo(defaults.path("factory"));
    String other = defaults.path("factory").toString().replace("\"newest\":24", "\"newest\":7");
    assertThat(
            app.client()
                .put("/api/plans/defaults", "0", "{\"plan\":" + other + "}")
                .json()
                .at("/usual/keep/newest")
                .asInt())
        .isEqualTo(7);
    app.stop();
    app.start();
    assertThat(app.client().get("/api/plans/defaults").json().at("/usual/keep/newest").asInt())
        .as("after a restart")
        .isEqualTo(7);
  }
}
