package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Every call that docs/openapi.json describes, asked wrongly: without a session, of things that are
 * not there, with bodies that are none. Each is refused in the words of RFC 9457, none fails.
 */
class ApiMatrixTest {
  @RegisterExtension static final RunningKavrin app = new RunningKavrin();

  private static final Path DESCRIPTION = Path.of("../docs/openapi.json");

  /** Answers a stream that does not end. */
  private static final Set<String> STREAMS = Set.of("/api/events");

  /** Asked before there is a session, or to end it. */
  private static final Set<String> DOORS =
      Set.of("/api/enter", "/api/session", "/api/sign-in", "/api/invitation");

  private static final Set<String> METHODS = Set.of("get", "post", "put", "delete");

  private static final List<String> NO_BODIES =
      List.of("", "no JSON", "[]", "{\"plan\":7,\"folder\":[1]}");

  private record Call(String method, String path, boolean takesBody) {
    @Override
    public String toString() {
      return method.toUpperCase() + " " + path;
    }
  }

  private static List<Call> calls() throws IOException {
    JsonNode paths = JsonMapper.shared().readTree(Files.readString(DESCRIPTION)).path("paths");
    List<Call> calls = new ArrayList<>();
    for (Map.Entry<String, JsonNode> path : paths.properties()) {
      for (Map.Entry<String, JsonNode> operation : path.getValue().properties()) {
        if (METHODS.contains(operation.getKey()) && !STREAMS.contains(path.getKey())) {
          calls.add(
              new Call(operation.getKey(), path.getKey(), operation.getValue().has("requestBody")));
        }
      }
    }
    assertThat(calls).hasSizeGreaterThan(100);
    return calls;
  }

  /** Its address with something of the right shape in every place, of nothing there is. */
  private static String address(String path) {
    return path.replace("{state}", "none")
        .replace("{content}", UUID.randomUUID().toString())
        .replaceAll("\\{[^}]+}", UUID.randomUUID().toString());
  }

  private static Client.Answer send(HttpClient http, HttpRequest.Builder request) throws Exception {
    HttpResponse<String> answer = http.send(request.build(), HttpResponse.BodyHandlers.ofString());
    return new Client.Answer(answer.statusCode(), answer.body(), answer);
  }

  private static HttpRequest.Builder request(Call call, URI base, String body) {
    return HttpRequest.newBuilder(base.resolve(address(call.path())))
        .timeout(Patience.LONG)
        .header("Content-Type", "application/json")
        .method(
            call.method().toUpperCase(),
            call.takesBody()
                ? HttpRequest.BodyPublishers.ofString(body)
                : HttpRequest.BodyPublishers.noBody());
  }

  /** What is wrong with an answer that should refuse; empty if nothing is. */
  private static String faultOf(Call call, Client.Answer answer) {
    String form = answer.raw().headers().firstValue("Content-Type").orElse("");
    if (answer.status() >= 500 || !form.startsWith("application/problem+json")) {
      return call + " answers " + answer.status() + " " + form + " " + answer.body() + "\n";
    }
    JsonNode problem = answer.json();
    boolean says =
        problem.path("status").asInt() == answer.status()
            && problem.path("type").asString("").startsWith("urn:kavrin:")
            && !problem.path("detail").asString("").isBlank();
    return says ? "" : call + " says " + answer.body() + "\n";
  }

  @Test
  void withoutASessionNothingIsTold() throws Exception {
    HttpClient stranger = HttpClient.newHttpClient();
    StringBuilder faults = new StringBuilder();
    for (Call call : calls()) {
      if (!DOORS.contains(call.path())) {
        Client.Answer answer = send(stranger, request(call, app.client().base(), "{}"));
        faults.append(
            Set.of(401, 403).contains(answer.status())
                ? faultOf(call, answer)
                : call + " answers " + answer.status() + "\n");
      }
    }
    assertThat(faults.toString()).isEmpty();
  }

  @Test
  void aPageOfAnotherHostIsToldNothing() throws Exception {
    URI base = app.client().base();
    for (String origin : List.of("http://evil.example", "null")) {
      Client.Answer answer =
          app.client().postWithout("/api/search", "", "Origin", origin, "X-XSRF-TOKEN", "guessed");
      assertThat(answer.status()).as(base + " from " + origin).isEqualTo(403);
    }
  }

  /** Of nothing that is there; what would do something for all is left to its own test. */
  @Test
  void whatIsNotThereIsSaidSo() throws Exception {
    StringBuilder faults = new StringBuilder();
    for (Call call : calls()) {
      if (call.path().contains("{")) {
        Client.Answer answer = asked(call, "{}");
        faults.append(answer.status() < 400 ? "" : faultOf(call, answer));
      }
    }
    assertThat(faults.toString()).isEmpty();
  }

  @Test
  void aBodyThatIsNoneIsRefused() throws Exception {
    StringBuilder faults = new StringBuilder();
    for (Call call : calls()) {
      for (String body : call.takesBody() ? NO_BODIES : List.<String>of()) {
        Client.Answer answer = asked(call, body);
        if (answer.status() >= 400) {
          faults.append(faultOf(call, answer));
        } else if (body.equals("no JSON")) {
          faults.append(call).append(" takes '" + body + "' for an order\n");
        }
      }
    }
    assertThat(faults.toString()).isEmpty();
  }

  private static Client.Answer asked(Call call, String body) throws Exception {
    String address = address(call.path());
    return switch (call.method()) {
      case "get" -> app.client().get(address);
      case "post" -> app.client().begin(address, body);
      case "put" -> app.client().put(address, "1", body);
      default -> app.client().delete(address);
    };
  }
}
