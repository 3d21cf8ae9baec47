package dev.kavrin.bench;

import dev.kavrin.core.compare.PartHistory;
import dev.kavrin.core.compare.PartHistory.Sighting;
import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.picture.Frame;
import dev.kavrin.core.worker.ReaderWorker;
import dev.kavrin.core.worker.ReaderWorker.Answer;
import dev.kavrin.core.worker.ReaderWorker.Ask;
import dev.kavrin.core.worker.ReaderWorker.Request;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import tools.jackson.databind.json.JsonMapper;

/** The lives of 500 parts over 1,000 states, and a picture of a large model. */
final class HistoryBench {
  private static final int STATES = 1_000;
  private static final int PARTS = 500;
  private static final int CHANGED_A_STATE = 5;

  private HistoryBench() {}

  static void run(Path folder) throws IOException {
    List<Sighting> sightings = sightings();
    Laps.run(
        "history: " + PARTS + " parts over " + STATES + " states",
        100,
        () -> PartHistory.of(sightings).gone(0));
    Path model = folder.resolve("model.glb");
    Files.write(model, CompareBench.model(0));
    try (Worker worker = new Worker()) {
      Laps.run(
          "picture: a model of 1,000,000 triangles, drawn by the reader's process",
          1_500,
          () -> worker.draw(model));
      System.out.println("  the process had at most " + worker.mostMemory());
    }
  }

  /** The process foreign files are read in, with the heap it has in Kavrin. */
  private static final class Worker implements AutoCloseable {
    private final Process process;

    Worker() throws IOException {
      process =
          new ProcessBuilder(
                  Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                  "-Xmx256m",
                  "-XX:+UseSerialGC",
                  "-XX:TieredStopAtLevel=1",
                  "-cp",
                  System.getProperty("java.class.path"),
                  ReaderWorker.class.getName())
              .redirectError(ProcessBuilder.Redirect.DISCARD)
              .start();
    }

    void draw(Path model) {
      Request request =
          new Request(
              1,
              Ask.PICTURE,
              model.toString(),
              "model.glb",
              Map.of(),
              null,
              null,
              null,
              0,
              Frame.SMALL,
              null,
              null,
              null,
              0);
      try {
        BufferedWriter out = process.outputWriter(StandardCharsets.UTF_8);
        out.write(JsonMapper.shared().writeValueAsString(request));
        out.newLine();
        out.flush();
        String line = process.inputReader(StandardCharsets.UTF_8).readLine();
        if (JsonMapper.shared().readValue(line, Answer.class).preview() == null) {
          throw new IllegalStateException("no picture: " + line);
        }
      } catch (IOException broken) {
        throw new UncheckedIOException(broken);
      }
    }

    /** By proc(5), VmHWM. */
    String mostMemory() throws IOException {
      return Files.readAllLines(Path.of("/proc", Long.toString(process.pid()), "status")).stream()
          .filter(line -> line.startsWith("VmHWM"))
          .findFirst()
          .orElseThrow()
          .substring("VmHWM:".length())
          .strip();
    }

    @Override
    public void close() {
      process.destroy();
    }
  }

  /** Each state changes, moves or renames a few parts; now and then one goes or comes back. */
  private static List<Sighting> sightings() {
    Random random = new Random(20310303);
    List<Part> parts = new ArrayList<>();
    for (int i = 0; i < PARTS; i++) {
      parts.add(part("Part " + i, i, 0));
    }
    List<Part> all = List.copyOf(parts);
    List<Sighting> sightings = new ArrayList<>();
    Instant begin = Instant.parse("2031-03-03T08:00:00Z");
    for (int at = 0; at < STATES; at++) {
      for (int k = 0; k < CHANGED_A_STATE; k++) {
        int i = random.nextInt(parts.size());
        parts.set(i, part(parts.get(i).label(), i, at));
      }
      if (random.nextInt(10) == 0) {
        parts.remove(random.nextInt(parts.size()));
      }
      if (random.nextInt(20) == 0) {
        Part back = all.get(random.nextInt(all.size()));
        if (parts.stream().noneMatch(p -> p.id().equals(back.id()))) {
          parts.add(back);
        }
      }
      sightings.add(
          new Sighting(
              "state " + at,
              begin.plusSeconds(600L * at),
              Inventory.of("glb", List.copyOf(parts), List.of()),
              true));
    }
    return sightings;
  }

  private static Part part(String name, int i, int shape) {
    double size = 1 + i / 100.0;
    return new Part(
        "Body/" + name,
        "Body",
        name,
        "mesh",
        Map.of("area", new Measure(size, "m²"), "extent", new Measure(size, "m")),
        new Box(new double[] {i, 0, 0}, new double[] {i + 1, 1, 1}),
        name + "." + shape,
        "placing",
        "surface",
        true);
  }
}
