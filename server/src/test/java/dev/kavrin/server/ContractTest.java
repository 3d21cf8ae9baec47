package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * What the service really answers is what docs/openapi.json says, read by a validator of JSON
 * Schema (2020-12, as OpenAPI 3.1 has it): of a project with backups, autosaves, a crash, a restore
 * and a recovery test.
 */
class ContractTest {
  @RegisterExtension static final RunningKavrin app = new RunningKavrin();

  private static final Path DESCRIPTION = Path.of("../docs/openapi.json");
  private static final JsonMapper JSON = JsonMapper.shared();

  /** Answers that are no JSON, or never end. */
  private static final Set<String> NOT_JSON =
      Set.of(
          "/api/contents/{content}/picture",
          "/api/contents/{content}/preview",
          "/api/documents/{id}/versions/{state}/file",
          "/api/events",
          "/api/enter");

  private final JsonNode api = description();
  private final Map<String, String> there = new LinkedHashMap<>();
  private final Set<String> answered = new HashSet<>();

  private static JsonNode description() {
    try {
      return JSON.readTree(Files.readString(DESCRIPTION));
    } catch (IOException unreadable) {
      throw new AssertionError(unreadable);
    }
  }

  @BeforeEach
  void aLifeSoFar() throws Exception {
    app.write(app.live(), RunningKavrin.model("Frame"));
    String project = app.project(1).json().path("id").asString();
    String document = app.document();
    await().atMost(Patience.LONG).until(() -> states(document).size() >= 1);
    app.write(app.live(), RunningKavrin.model("Frame", "Door"));
    app.write(
        app.work().resolve(".drafts/carriage-02~1.tmp"),
        RunningKavrin.model("Frame", "Door", "Bell"));
    await().atMost(Patience.LONG).until(() -> states(document).size() >= 2);
    app.client().post("/api/projects/" + project + "/incidents", "{}");
    app.client().post("/api/documents/" + document + "/look", "{}");
    JsonNode version = states(document).get(0);
    there.put("project", project);
    there.put("document", document);
    there.put("state", version.path("id").asString());
    there.put("other", states(document).get(1).path("id").asString());
    there.put("content", version.path("content").asString());
    there.put(
        "incident",
        app.client()
            .get("/api/projects/" + project + "/incidents")
            .json()
            .get(0)
            .path("id")
            .asString());
  }

  private static JsonNode states(String document) throws Exception {
    return app.client().get("/api/documents/" + document + "/versions").json().path("states");
  }

  /** An address of something that is there; empty where this life has no such thing. */
  private String address(String path) {
    String filled =
        path.replace("/api/projects/{project}", "/api/projects/" + there.get("project"))
            .replace("/api/projects/{id}", "/api/projects/" + there.get("project"))
            .replace("/api/documents/{id}", "/api/documents/" + there.get("document"))
            .replace("/incidents/{id}", "/incidents/" + there.get("incident"))
            .replace("{state}", there.get("state"))
            .replace("{content}", there.get("content"))
            .replace("{part}", "0");
    return filled.contains("{") ? "" : filled;
  }

  /** What a call must be asked with. */
  private String asked(JsonNode operation) {
    List<String> query = new ArrayList<>();
    for (JsonNode parameter : operation.path("parameters")) {
      if (parameter.path("in").asString().equals("query")
          && parameter.path("required").asBoolean()) {
        String name = parameter.path("name").asString();
        query.add(name + "=" + value(name, parameter.path("schema")));
      }
    }
    return query.isEmpty() ? "" : "?" + String.join("&", query);
  }

  private String value(String name, JsonNode schema) {
    return switch (name) {
      case "a" -> there.get("state");
      case "b" -> there.get("other");
      case "work", "folder", "path" -> app.work().toString();
      case "at" -> "2031-03-03T12:00:00Z";
      default -> schema.path("enum").isArray() ? schema.at("/enum/0").asString() : "Frame";
    };
  }

  /** What is wrong with an answer; empty if it is as described. */
  private List<String> faults(String what, JsonNode operation, Client.Answer answer) {
    JsonNode response = operation.path("responses").path(String.valueOf(answer.status()));
    if (response.isMissingNode()) {
      response = operation.path("responses").path("default");
    }
    for (Map.Entry<String, JsonNode> form : response.path("content").properties()) {
      if (form.getKey().contains("json") && !answer.body().isEmpty()) {
        List<String> found = new ArrayList<>();
        schema(form.getValue().path("schema"))
            .validate(answer.body(), InputFormat.JSON)
            .forEach(e -> found.add(what + " " + answer.status() + ": " + e));
        if (answer.status() < 300) {
          answered.add(what);
        }
        return found;
      }
    }
    return List.of();
  }

  private Schema schema(JsonNode part) {
    ObjectNode whole = JSON.createObjectNode();
    whole.setAll((ObjectNode) part.deepCopy());
    whole.set("components", api.path("components"));
    return SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
        .getSchema(whole.toString(), InputFormat.JSON);
  }

  @Test
  void whatIsReadIsAsDescribed() throws Exception {
    List<String> faults = new ArrayList<>();
    for (Map.Entry<String, JsonNode> path : api.path("paths").properties()) {
      JsonNode get = path.getValue().path("get");
      String address = address(path.getKey());
      if (!get.isMissingNode() && !NOT_JSON.contains(path.getKey()) && !address.isEmpty()) {
        Client.Answer answer = app.client().get(address + asked(get));
        faults.addAll(faults("GET " + path.getKey(), get, answer));
      }
    }
    assertThat(faults).isEmpty();
    assertThat(answered).hasSizeGreaterThan(35);
  }

  private Client.Answer sent(String path, String body) throws Exception {
    return app.client().post(address(path), body);
  }

  @Test
  void whatIsAskedForIsAsDescribed() throws Exception {
    JsonNode project = app.client().get("/api/projects/" + there.get("project")).json();
    String plan = project.path("plan").toString();
    String state = there.get("state");
    Map<String, String> calls = new LinkedHashMap<>();
    calls.put("/api/projects/{id}/plan/figures", "{\"plan\":" + plan + "}");
    calls.put("/api/projects/{id}/plan/advice", "{\"plans\":[" + plan + "]}");
    calls.put("/api/projects/look", "{\"folder\":\"" + app.work() + "\",\"rule\":[\"*.glb\"]}");
    calls.put(
        "/api/folders/check",
        "{\"path\":\""
            + app.in("more")
            + "\",\"role\":\"RECOVERY\",\"work\":\""
            + app.work()
            + "\"}");
    calls.put(
        "/api/documents/{id}/restores/preview",
        "{\"state\":\"" + state + "\",\"mode\":\"REPLACE\"}");
    calls.put("/api/documents/{id}/copies", "{\"note\":\"for the record\"}");
    calls.put("/api/documents/{id}/trials", "{\"state\":\"" + state + "\"}");
    calls.put("/api/documents/{id}/recheck", "{\"state\":\"" + state + "\"}");
    calls.put("/api/watchings", "{\"folder\":\"" + app.work() + "\",\"also\":[]}");
    calls.put("/api/moments", "{\"minutes\":60}");
    calls.put("/api/documents/{id}/recovery-tests/unattended", "{}");
    List<String> faults = new ArrayList<>();
    for (Map.Entry<String, String> call : calls.entrySet()) {
      Client.Answer answer = sent(call.getKey(), call.getValue());
      assertThat(answer.status()).as(call.getKey() + " " + answer.body()).isLessThan(300);
      JsonNode post = api.path("paths").path(call.getKey()).path("post");
      faults.addAll(faults("POST " + call.getKey(), post, answer));
    }
    assertThat(faults).isEmpty();
    assertThat(answered).hasSize(calls.size());
  }
}
