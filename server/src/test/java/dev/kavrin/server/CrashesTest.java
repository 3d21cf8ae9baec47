package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.awaitility.core.ConditionTimeoutException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/**
 * Crashes made at random, whose truth is known: which file holds the newest whole work. It is
 * recommended in each, however old the crash is.
 */
class CrashesTest {
  private static final int CRASHES = Boolean.getBoolean("kavrin.full") ? 200 : 40;
  private static final int DAYS = 365;
  private static final int RING = 3;

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private final Random random = new Random(22);

  /** A file that a crash left, and when its work was done. */
  private record Left(Path path, boolean whole, Instant at) {}

  private byte[] damaged(byte[] whole) {
    return switch (random.nextInt(4)) {
      case 0 -> Arrays.copyOf(whole, whole.length * (5 + random.nextInt(90)) / 100);
      case 1 -> Arrays.copyOf(Arrays.copyOf(whole, whole.length / 2), whole.length);
      case 2 -> new byte[0];
      default -> {
        byte[] zeroed = whole.clone();
        Arrays.fill(zeroed, 0, 64, (byte) 0);
        yield zeroed;
      }
    };
  }

  /** When each file of a document was written, seconds before the crash; a ring goes round. */
  private Map<Path, Integer> written(String stem) {
    Path work = app.work();
    Map<Path, Integer> written = new LinkedHashMap<>();
    written.put(work.resolve(stem + ".glb"), 30 + random.nextInt(20_000));
    if (random.nextBoolean()) {
      written.put(work.resolve(".drafts/" + stem + ".rescue"), 20 + random.nextInt(9_000));
    }
    int filled = random.nextInt(RING + 1);
    int begun = filled == RING ? random.nextInt(RING) : 0;
    int before = 40 + random.nextInt(2_000);
    for (int i = filled - 1; i >= 0; i--) {
      int slot = (begun + i) % RING + 1;
      written.put(work.resolve(".drafts/" + stem + "~" + slot + ".tmp"), before);
      before += 120 + random.nextInt(3_000);
    }
    return written;
  }

  /** The newest whole one of the files it leaves; null if none is. */
  private Path crash(int n) throws Exception {
    Instant crash =
        Instant.now().minus(Duration.ofSeconds(60 + (long) (random.nextDouble() * DAYS * 86_400)));
    List<Left> all = new ArrayList<>();
    for (Map.Entry<Path, Integer> file : written("part-" + (100 + n)).entrySet()) {
      boolean whole = random.nextInt(3) > 0;
      byte[] bytes = model("Frame", "Roof", "Bolt " + n, "Part " + all.size(), "x".repeat(200));
      Instant at = crash.minusSeconds(file.getValue()).minusMillis(all.size());
      app.write(file.getKey(), whole ? bytes : damaged(bytes));
      Files.setLastModifiedTime(file.getKey(), FileTime.from(at));
      all.add(new Left(file.getKey(), whole, at));
    }
    return all.stream()
        .filter(Left::whole)
        .max(Comparator.comparing(Left::at))
        .map(Left::path)
        .orElse(null);
  }

  @Test
  void theNewestWholeOneIsRecommended() throws Exception {
    Map<String, Path> truth = new LinkedHashMap<>();
    for (int n = 0; n < CRASHES; n++) {
      truth.put("part-" + (100 + n) + ".glb", crash(n));
    }
    assertThat(app.project(30).status()).isEqualTo(200);
    Map<String, String> documents = documents(truth.size());
    List<String> wrong = new ArrayList<>();
    for (Map.Entry<String, Path> wanted : truth.entrySet()) {
      String id = documents.get(wanted.getKey());
      try {
        await().atMost(Patience.LONG).until(() -> isRight(recovery(id), wanted.getValue()));
      } catch (ConditionTimeoutException never) {
        wrong.add(wanted.getKey() + ": " + wanted.getValue() + ", told " + told(recovery(id)));
      }
    }
    assertThat(wrong).as("of %d crashes", CRASHES).isEmpty();
  }

  private JsonNode recovery(String document) throws Exception {
    return app.client().get("/api/documents/" + document + "/recovery").json();
  }

  /** The bytes that are recommended are those of the newest whole file, wherever they stand. */
  private static boolean isRight(JsonNode told, Path wanted) throws Exception {
    String path = told(told);
    return wanted == null
        ? path.isEmpty() && !told.path("candidates").isEmpty()
        : !path.isEmpty() && Files.mismatch(Path.of(path), wanted) < 0;
  }

  private Map<String, String> documents(int count) throws Exception {
    Map<String, String> ids = new LinkedHashMap<>();
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              ids.clear();
              for (JsonNode d :
                  app.client().get("/api/overview").json().at("/projects/0/documents")) {
                ids.put(d.path("name").asString(), d.path("id").asString());
              }
              assertThat(ids).hasSize(count);
            });
    return ids;
  }

  /** Where the recommended version stands. */
  private static String told(JsonNode told) {
    for (JsonNode candidate : told.path("candidates")) {
      if (candidate.path("state").equals(told.path("recommended"))) {
        return candidate.path("path").asString();
      }
    }
    return "";
  }
}
