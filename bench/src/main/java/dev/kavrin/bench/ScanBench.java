package dev.kavrin.bench;

import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
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
    Visitor visitor = new Visitor(link);
    String body = "{\"folder\":\"" + world + "\",\"rule\":[\"*.glb\"]}";
    System.out.printf(
        Locale.ROOT,
        "scan: the first look at %d files took %.2f s%n",
        FOLDERS * FILES,
        ask(visitor, body));
    for (int warm = 0; warm < 5; warm++) {
      ask(visitor, body);
    }
    Contest.run(
        "scan: a look at " + FOLDERS * FILES + " files seen before",
        TURNS,
        2,
        turn -> ask(visitor, body),
        "find",
        turn -> Contest.command("find", world.toString(), "-printf", "%p %s %T@ %i %y\\n"));
  }

  private static double ask(Visitor visitor, String body) throws IOException, InterruptedException {
    long start = System.nanoTime();
    HttpResponse<String> answer = visitor.post("/api/projects/look", body);
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
