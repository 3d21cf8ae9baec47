package dev.kavrin.bench;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;

/**
 * Looks at a folder of 100,000 files in 1,000 folders, asked of the running server over HTTP,
 * against {@code find -printf} on the same folder.
 */
final class ScanBench {
  private static final int FOLDERS = 1000;
  private static final int FILES = 100;
  private static final int TURNS = 7;

  private ScanBench() {}

  static void run(Path folder, String link) throws Exception {
    Path world = folder.resolve("work");
    make(world);
    CookieManager cookies = new CookieManager();
    HttpClient client =
        HttpClient.newBuilder()
            .cookieHandler(cookies)
            .followRedirects(HttpClient.Redirect.NORMAL)
            .build();
    for (URI page : List.of(URI.create(link), URI.create(link).resolve("/api/projects"))) {
      client.send(HttpRequest.newBuilder(page).build(), HttpResponse.BodyHandlers.discarding());
    }
    String token =
        cookies.getCookieStore().getCookies().stream()
            .filter(c -> c.getName().equals("XSRF-TOKEN"))
            .map(HttpCookie::getValue)
            .findFirst()
            .orElseThrow();
    URI look = URI.create(link).resolve("/api/projects/look");
    String body = "{\"folder\":\"" + world + "\",\"rule\":[\"*.glb\"]}";
    HttpRequest request =
        HttpRequest.newBuilder(look)
            .header("Content-Type", "application/json")
            .header("X-XSRF-TOKEN", token)
            .POST(HttpRequest.BodyPublishers.ofString(body))
            .build();
    System.out.printf(
        Locale.ROOT,
        "scan: the first look at %d files took %.2f s%n",
        FOLDERS * FILES,
        ask(client, request));
    for (int warm = 0; warm < 5; warm++) {
      ask(client, request);
    }
    Contest.run(
        "scan: a look at " + FOLDERS * FILES + " files seen before",
        TURNS,
        2,
        turn -> ask(client, request),
        "find",
        turn -> Contest.command("find", world.toString(), "-printf", "%p %s %T@ %i %y\\n"));
  }

  private static double ask(HttpClient client, HttpRequest request)
      throws IOException, InterruptedException {
    long start = System.nanoTime();
    HttpResponse<String> answer = client.send(request, HttpResponse.BodyHandlers.ofString());
    double seconds = (System.nanoTime() - start) / 1e9;
    if (answer.statusCode() != 200 || !answer.body().contains("part-000-000.glb")) {
      throw new IllegalStateException(answer.statusCode() + " " + answer.body());
    }
    return seconds;
  }

  private static void make(Path world) throws IOException {
    for (int f = 0; f < FOLDERS; f++) {
      Path folder = Files.createDirectories(world.resolve("folder-%03d".formatted(f)));
      for (int i = 0; i < FILES; i++) {
        String name = "part-%03d-%03d.%s".formatted(f, i, i % 20 == 0 ? "glb" : "png");
        Path file = folder.resolve(i % 20 == 1 ? name.replace(".png", ".bak") : name);
        if (Files.notExists(file)) {
          Files.writeString(file, name);
        }
      }
    }
  }
}
