package dev.kavrin.server;

import java.io.IOException;
import java.net.CookieManager;
import java.net.CookiePolicy;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Speaks to the running application as its page does. */
final class Client {
  private final CookieManager cookies = new CookieManager(null, CookiePolicy.ACCEPT_ALL);
  private final HttpClient http =
      HttpClient.newBuilder()
          .cookieHandler(cookies)
          .followRedirects(HttpClient.Redirect.NEVER)
          .build();
  private final URI base;

  Client(URI base) {
    this.base = base;
  }

  record Answer(int status, String body, HttpResponse<String> raw) {
    JsonNode json() {
      return JsonMapper.shared().readTree(body);
    }

    String problem() {
      return json().path("type").asString("").replace("urn:kavrin:problem:", "");
    }
  }

  /** Uses a one-time link up and gets the token against foreign pages. */
  static Client entered(String link) throws Exception {
    URI uri = URI.create(link);
    Client client = new Client(uri.resolve("/"));
    client.get(uri.getPath() + "?" + uri.getQuery());
    client.get("/api/session");
    return client;
  }

  URI base() {
    return base;
  }

  Answer get(String path) throws IOException, InterruptedException {
    return send(request(path).GET());
  }

  /** Asks until a comparison is made; what came of it. */
  JsonNode compared(String document, String a, String b) throws Exception {
    while (true) {
      JsonNode answer =
          get("/api/documents/%s/comparison?a=%s&b=%s".formatted(document, a, b)).json();
      if (answer.has("view")) {
        return answer.path("view");
      }
    }
  }

  /** Sends bytes as they are. */
  Answer send(String path, byte[] bytes) throws IOException, InterruptedException {
    return send(
        withToken(request(path))
            .setHeader("Content-Type", "application/octet-stream")
            .POST(HttpRequest.BodyPublishers.ofByteArray(bytes)));
  }

  /** What came of it: a job that is begun is waited for. */
  Answer post(String path, String json) throws IOException, InterruptedException {
    Answer answer = begin(path, json);
    return answer.status() == 202 && answer.json().has("attempt") ? ended(answer) : answer;
  }

  /** The answer itself. */
  Answer begin(String path, String json) throws IOException, InterruptedException {
    return send(withToken(request(path)).POST(HttpRequest.BodyPublishers.ofString(json)));
  }

  /** As the call would have answered if it had been done at once. */
  Answer ended(Answer begun) throws IOException, InterruptedException {
    JsonNode job = begun.json();
    while (job.path("ended").isMissingNode()) {
      job = get("/api/jobs/" + job.path("id").asString() + "?wait=15").json();
    }
    JsonNode problem = job.path("problem");
    return problem.isMissingNode()
        ? new Answer(200, job.path("result").toString(), begun.raw())
        : new Answer(problem.path("status").asInt(), problem.toString(), begun.raw());
  }

  Answer put(String path, String version, String json) throws IOException, InterruptedException {
    return send(
        withToken(request(path))
            .header("If-Match", version)
            .PUT(HttpRequest.BodyPublishers.ofString(json)));
  }

  /** A stretch of what stands at an address. */
  HttpResponse<byte[]> bytes(String path, String range) throws Exception {
    return http.send(
        request(path).header("Range", range).GET().build(),
        HttpResponse.BodyHandlers.ofByteArray());
  }

  Answer delete(String path) throws IOException, InterruptedException {
    return send(withToken(request(path)).DELETE());
  }

  Answer postWithout(String path, String json, String... headers) throws Exception {
    HttpRequest.Builder builder = request(path);
    return send(builder.headers(headers).POST(HttpRequest.BodyPublishers.ofString(json)));
  }

  private HttpRequest.Builder request(String path) {
    return HttpRequest.newBuilder(base.resolve(path))
        .timeout(Patience.LONG)
        .header("Content-Type", "application/json");
  }

  private HttpRequest.Builder withToken(HttpRequest.Builder builder) {
    return builder.header("X-XSRF-TOKEN", token());
  }

  String token() {
    return cookies.getCookieStore().getCookies().stream()
        .filter(c -> c.getName().equals("XSRF-TOKEN"))
        .map(HttpCookie::getValue)
        .findFirst()
        .orElse("");
  }

  private Answer send(HttpRequest.Builder builder) throws IOException, InterruptedException {
    HttpResponse<String> response =
        http.send(builder.build(), HttpResponse.BodyHandlers.ofString());
    return new Answer(response.statusCode(), response.body(), response);
  }
}
