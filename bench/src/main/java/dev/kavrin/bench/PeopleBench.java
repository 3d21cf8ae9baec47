package dev.kavrin.bench;

import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Queue;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.locks.LockSupport;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Fifty people who have signed in browse two thousand documents: each opens a view, asks what its
 * page asks, reads for a few seconds, and goes on. Half of them may see everything, half two
 * projects of twenty.
 */
final class PeopleBench {
  private static final int PEOPLE = 50;
  private static final int PROJECTS = 20;
  private static final int DOCUMENTS = 100;
  private static final double TARGET_MILLIS = 200;
  private static final Duration WARMING = Duration.ofSeconds(45);
  private static final Duration LENGTH = Duration.ofSeconds(120);
  private static final Pattern ID = Pattern.compile("\"id\":\"([0-9a-f-]{36})\",\"name\":\"sheet-");

  private final Path folder;
  private final Visitor first;
  private final Map<String, Queue<Double>> took = new ConcurrentSkipListMap<>();

  private PeopleBench(Path folder, Visitor first) {
    this.folder = folder;
    this.first = first;
  }

  static void run(Path folder, String link) throws Exception {
    new PeopleBench(folder, new Visitor(link)).run();
  }

  private void run() throws Exception {
    List<String> projects = new ArrayList<>();
    for (int p = 0; p < PROJECTS; p++) {
      projects.add(project(p));
    }
    List<Visitor> people = new ArrayList<>();
    for (int n = 0; n < PEOPLE; n++) {
      String two =
          grant(projects.get(n % PROJECTS)) + "," + grant(projects.get((n + 7) % PROJECTS));
      people.add(first.invites("Visitor " + n, n % 2 == 0 ? "{\"role\":\"LOOK\"}" : two));
    }
    browse(people, WARMING);
    took.clear();
    browse(people, LENGTH);
    took.forEach(PeopleBench::tell);
  }

  private static String grant(String project) {
    return "{\"project\":\"%s\",\"role\":\"RESTORE\"}".formatted(project);
  }

  private void browse(List<Visitor> people, Duration length) throws Exception {
    long until = System.nanoTime() + length.toNanos();
    ExecutorService all = Executors.newFixedThreadPool(people.size());
    try {
      List<Future<Void>> done = new ArrayList<>();
      for (int n = 0; n < people.size(); n++) {
        Visitor person = people.get(n);
        Random random = new Random(n);
        Callable<Void> day = () -> browse(person, random, until);
        done.add(all.submit(day));
      }
      for (Future<Void> each : done) {
        each.get();
      }
    } finally {
      all.shutdownNow();
    }
  }

  private Void browse(Visitor person, Random random, long until) throws Exception {
    // Nobody comes in the same moment as all the others.
    read(random);
    while (System.nanoTime() < until) {
      String overview = timed(person, "overview", "/api/overview");
      timed(person, "losses", "/api/losses");
      read(random);
      List<String> documents = ID.matcher(overview).results().map(m -> m.group(1)).toList();
      for (int n = 0; n < 3 && System.nanoTime() < until; n++) {
        String document = documents.get(random.nextInt(documents.size()));
        timed(person, "versions", "/api/documents/" + document + "/versions");
        timed(person, "who wrote it", "/api/documents/" + document + "/who");
        read(random);
      }
    }
    return null;
  }

  /** What a person takes to read a page: two to eight seconds. */
  private static void read(Random random) {
    LockSupport.parkNanos(Duration.ofMillis(2000 + random.nextInt(6000)).toNanos());
  }

  private String timed(Visitor person, String name, String path) throws Exception {
    long began = System.nanoTime();
    HttpResponse<String> answer = person.get(path);
    if (answer.statusCode() != 200) {
      throw new IllegalStateException(path + " answers " + answer.statusCode() + answer.body());
    }
    took.computeIfAbsent(name, n -> new ConcurrentLinkedQueue<>())
        .add((System.nanoTime() - began) / 1e6);
    return answer.body();
  }

  private static void tell(String name, Queue<Double> millis) {
    double[] sorted = millis.stream().mapToDouble(Double::doubleValue).sorted().toArray();
    double p95 = sorted[(int) Math.min(sorted.length - 1L, Math.round(sorted.length * 0.95))];
    System.out.printf(
        Locale.ROOT,
        "people: %-14s %5d calls, median %.0f ms, 95 of 100 within %.0f ms (target %.0f: %s)%n",
        name,
        sorted.length,
        sorted[sorted.length / 2],
        p95,
        TARGET_MILLIS,
        p95 <= TARGET_MILLIS ? "met" : "missed");
  }

  private String project(int number) throws Exception {
    Path work = Files.createDirectories(folder.resolve("office-" + number));
    for (int n = 0; n < DOCUMENTS; n++) {
      Files.writeString(
          work.resolve("sheet-%03d.csv".formatted(n)), "step;force\n%d;%d\n".formatted(number, n));
    }
    HttpResponse<String> answer =
        first.post(
            "/api/projects",
            """
            {"name":"%1$s","folder":"%2$s","rule":["*.csv"],"recovery":"%2$s-kept",
             "plan":{"interval":"PT1S","quiet":"PT2S","hardLimit":"PT4H","keep":{"newest":5,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}}
            """
                .formatted(work.getFileName(), work));
    if (answer.statusCode() != 202) {
      throw new IllegalStateException(answer.statusCode() + " " + answer.body());
    }
    return made(work.getFileName().toString());
  }

  /** Its id, once it is made and all its documents are backed up. */
  private String made(String name) throws IOException, InterruptedException {
    Pattern project = Pattern.compile("\"id\":\"([0-9a-f-]{36})\",[^{}]*\"name\":\"" + name + "\"");
    while (true) {
      String all = first.get("/api/projects").body();
      Matcher found = project.matcher(all);
      Path kept = folder.resolve(name + "-kept").resolve(name);
      if (found.find() && Files.isDirectory(kept) && backups(kept) >= DOCUMENTS) {
        return found.group(1);
      }
      LockSupport.parkNanos(200_000_000);
    }
  }

  private static long backups(Path kept) throws IOException {
    try (var all = Files.list(kept)) {
      return all.filter(p -> p.getFileName().toString().matches("[^.].*\\.\\d{6}\\..*")).count();
    }
  }
}
