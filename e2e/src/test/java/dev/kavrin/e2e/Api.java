package dev.kavrin.e2e;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Speaks to the server as the page does, with a session and the anti-forgery token. */
final class Api {
  private final CookieManager cookies = new CookieManager();
  private final HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();
  private final URI base;

  Api(String link) throws IOException, InterruptedException {
    base = URI.create(link).resolve("/");
    send(HttpRequest.newBuilder(URI.create(link)).build());
    get("api/session");
  }

  /** How an answer came. */
  record Answer(int status, Duration took, JsonNode body) {}

  Answer get(String path) throws IOException, InterruptedException {
    return send(HttpRequest.newBuilder(base.resolve(path)).build());
  }

  /** What came of it: a job that is begun is waited for. */
  Answer post(String path, String body) throws IOException, InterruptedException {
    Answer begun = begin(path, body);
    if (begun.status() != 202 || !begun.body().has("attempt")) {
      return begun;
    }
    JsonNode job = begun.body();
    while (job.path("ended").isMissingNode()) {
      job = get("api/jobs/" + job.path("id").asString() + "?wait=15").body();
    }
    JsonNode problem = job.path("problem");
    return problem.isMissingNode()
        ? new Answer(200, begun.took(), job.path("result"))
        : new Answer(problem.path("status").asInt(), begun.took(), problem);
  }

  private Answer begin(String path, String body) throws IOException, InterruptedException {
    String token =
        cookies.getCookieStore().getCookies().stream()
            .filter(c -> c.getName().equals("XSRF-TOKEN"))
            .map(HttpCookie::getValue)
            .findFirst()
            .orElseThrow();
    return send(
        HttpRequest.newBuilder(base.resolve(path))
            .header("Content-Type", "application/json")
            .header("X-XSRF-TOKEN", token)
            .POST(HttpRequest.BodyPublishers.ofString(body))
            .build());
  }

  private Answer send(HttpRequest request) throws IOException, InterruptedException {
    long start = System.nanoTime();
    HttpResponse<String> answer = client.send(request, HttpResponse.BodyHandlers.ofString());
    Duration took = Duration.ofNanos(System.nanoTime() - start);
    boolean json = answer.headers().firstValue("content-type").orElse("").contains("json");
    return new Answer(
        answer.statusCode(), took, json ? JsonMapper.shared().readTree(answer.body()) : null);
  }
}
