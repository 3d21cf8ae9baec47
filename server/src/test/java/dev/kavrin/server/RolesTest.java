package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Every call with every role, as docs/security.md says. */
class RolesTest {
  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private static final Pattern LINE =
      Pattern.compile("\\| (GET|POST|PUT|DELETE) \\| `([^`]+)` \\| ([a-z ]+) \\| (\\w*) ?\\|");
  private static final List<String> ROLES = List.of("look", "restore", "plan", "administer");

  /** Which end the session that asks, or change how it is opened. */
  private static final Set<String> OWN = Set.of("DELETE /api/session", "PUT /api/session/password");

  private record Line(String method, String path, String over, String role) {
    String call() {
      return method + " " + path;
    }

    boolean allows(String role, boolean everywhere) {
      boolean enough = this.role.isEmpty() || ROLES.indexOf(role) >= ROLES.indexOf(this.role);
      return enough && (everywhere || !over.equals("everything"));
    }
  }

  private String project;
  private String document;
  private String other;

  private static List<Line> lines() throws IOException {
    List<Line> lines = new ArrayList<>();
    for (String line : Files.readAllLines(Path.of("../docs/security.md"))) {
      Matcher m = LINE.matcher(line);
      if (m.matches()) {
        lines.add(new Line(m.group(1), m.group(2), m.group(3), m.group(4)));
      }
    }
    return lines;
  }

  @BeforeEach
  void twoProjects() throws Exception {
    project = project("cable");
    other = project("tower");
    document = document(app.client(), project);
  }

  private String project(String name) throws Exception {
    app.write(app.in(name).resolve(name + ".glb"), RunningKavrin.model("frame"));
    return app.project(app.in(name), app.in(name + "-keep"), 60).json().path("id").asString();
  }

  private static String document(Client client, String project) throws Exception {
    for (JsonNode p : client.get("/api/overview").json().path("projects")) {
      if (p.path("id").asString().equals(project)) {
        return p.path("documents").path(0).path("id").asString();
      }
    }
    throw new AssertionError("no document");
  }

  private Client.Answer ask(Client who, Line line, String project, String document)
      throws Exception {
    String path =
        line.path()
            .replace("/projects/{id}", "/projects/" + project)
            .replace("/projects/{project}", "/projects/" + project)
            .replace("/documents/{id}", "/documents/" + document)
            .replaceAll("\\{[^}]+}", UUID.randomUUID().toString());
    return switch (line.method()) {
      case "GET" -> who.get(path);
      case "DELETE" -> who.delete(path);
      case "PUT" -> who.put(path, "0", "no JSON");
      default -> who.begin(path, "no JSON");
    };
  }

  private static boolean refused(Client.Answer answer) {
    return answer.status() == 403 && answer.problem().equals("no-right");
  }

  @Test
  void theTableNamesEachCallThereIs() throws Exception {
    JsonNode paths =
        JsonMapper.shared()
            .readTree(Files.readString(Path.of("../docs/openapi.json")))
            .path("paths");
    List<String> calls = new ArrayList<>();
    for (Map.Entry<String, JsonNode> path : paths.properties()) {
      path.getValue()
          .propertyNames()
          .forEach(method -> calls.add(method.toUpperCase() + " " + path.getKey()));
    }
    assertThat(lines()).extracting(Line::call).containsExactlyInAnyOrderElementsOf(calls);
  }

  @Test
  void eachRoleMayWhatTheTableSaysAndNoMore() throws Exception {
    Map<String, Client> people = new LinkedHashMap<>();
    for (String role : ROLES) {
      people.put(role, Guests.invited(app.client(), role + " here", project, role.toUpperCase()));
      people.put(
          role + " everywhere",
          Guests.invited(app.client(), role + " everywhere", null, role.toUpperCase()));
    }
    List<String> faults = new ArrayList<>();
    for (Line line : lines()) {
      if (OWN.contains(line.call()) || line.over().equals("nobody signed in")) {
        continue;
      }
      for (Map.Entry<String, Client> person : people.entrySet()) {
        boolean everywhere = person.getKey().endsWith(" everywhere");
        String role = person.getKey().split(" ")[0];
        boolean byReceipt =
            line.path().startsWith("/api/restores/") || line.path().startsWith("/api/group-");
        Client.Answer answer = ask(person.getValue(), line, project, document);
        // A restore that does not exist is of no project: 404, whoever asks.
        boolean may = line.allows(role, everywhere) || byReceipt;
        if (refused(answer) == may) {
          faults.add(person.getKey() + ": " + line.call() + " answers " + answer.status());
        }
      }
    }
    assertThat(faults).isEmpty();
  }

  @Test
  void ofAnotherProjectNothingIsTold() throws Exception {
    Client guest = Guests.invited(app.client(), "Maren Holt", project, "ADMINISTER");
    String foreign = document(app.client(), other);
    List<String> faults = new ArrayList<>();
    for (Line line : lines()) {
      if (line.over().equals("that project")) {
        Client.Answer answer = ask(guest, line, other, foreign);
        // Of another form than is taken: refused before anything is looked up, whatever the id.
        if (answer.status() != 404 && answer.status() != 415) {
          faults.add(line.call() + " answers " + answer.status());
        }
      }
    }
    assertThat(faults).isEmpty();
    assertThat(guest.get("/api/jobs/" + UUID.randomUUID()).status()).isEqualTo(404);
  }
}
