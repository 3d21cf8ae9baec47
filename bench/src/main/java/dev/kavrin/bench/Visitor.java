package dev.kavrin.bench;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;

/** A person at a running service. */
final class Visitor {
  private final CookieManager cookies = new CookieManager();
  private final HttpClient client =
      HttpClient.newBuilder()
          .cookieHandler(cookies)
          .followRedirects(HttpClient.Redirect.NORMAL)
          .build();
  private final URI link;
  private final String token;

  /**
   * @param link that opens the door once
   */
  Visitor(String link) throws IOException, InterruptedException {
    this.link = URI.create(link);
    for (URI page : new URI[] {this.link, this.link.resolve("/api/session")}) {
      client.send(HttpRequest.newBuilder(page).build(), HttpResponse.BodyHandlers.discarding());
    }
    token = token();
  }

  private Visitor(URI base, String invitation) throws IOException, InterruptedException {
    link = base;
    get("/api/invitation?token=" + invitation);
    token = token();
  }

  /**
   * Somebody who was let in and has chosen a password.
   *
   * @param grants what they may, as JSON
   */
  Visitor invites(String name, String grants) throws IOException, InterruptedException {
    String path =
        post("/api/people", "{\"name\":\"%s\",\"grants\":[%s]}".formatted(name, grants)).body();
    String invitation = path.replaceAll(".*token=([\\w-]+).*", "$1");
    Visitor guest = new Visitor(link.resolve("/"), invitation);
    guest.post(
        "/api/invitation",
        "{\"token\":\"%s\",\"password\":\"bench bench bench 1\"}".formatted(invitation));
    return guest;
  }

  HttpResponse<String> get(String path) throws IOException, InterruptedException {
    return client.send(
        HttpRequest.newBuilder(link.resolve(path)).build(), HttpResponse.BodyHandlers.ofString());
  }

  private String token() {
    return cookies.getCookieStore().getCookies().stream()
        .filter(c -> c.getName().equals("XSRF-TOKEN"))
        .map(HttpCookie::getValue)
        .findFirst()
        .orElseThrow();
  }

  HttpResponse<String> post(String path, String body) throws IOException, InterruptedException {
    HttpRequest request =
        HttpRequest.newBuilder(link.resolve(path))
            .header("Content-Type", "application/json")
            .header("X-XSRF-TOKEN", token)
            .POST(HttpRequest.BodyPublishers.ofString(body))
            .build();
    return client.send(request, HttpResponse.BodyHandlers.ofString());
  }
}
