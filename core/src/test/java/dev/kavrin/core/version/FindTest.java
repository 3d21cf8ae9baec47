package dev.kavrin.core.version;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.Sketch;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.naming.NameFields;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Worlds with a known truth: which file belongs where, in what order, and is it whole. */
class FindTest {
  @TempDir Path folder;
  private final HealthCheck check = new HealthCheck(new RealDisk());

  static LongStream seeds() {
    return Boolean.getBoolean("kavrin.full") ? LongStream.range(11, 31) : LongStream.of(11, 12);
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void everythingThatSurvivedIsFoundAndTied(long seed) throws IOException {
    TestWorld world = new TestWorld(folder.resolve("world"), seed);
    List<DocumentMatcher.Stranger> strangers = new ArrayList<>();
    Map<Path, HealthReport> reports = new HashMap<>();
    for (Map.Entry<Path, TestWorld.Truth> file : world.truth.entrySet()) {
      HealthReport report = inspect(world, file.getKey(), file.getValue());
      reports.put(file.getKey(), report);
      strangers.add(
          new DocumentMatcher.Stranger(file.getKey(), sketch(file.getKey()), parts(report)));
    }
    Map<Path, DocumentMatcher.Tie> ties =
        DocumentMatcher.all(new RealDisk(), subjects(world), strangers);
    int tied = 0;
    int right = 0;
    int belonging = 0;
    List<String> wrong = new ArrayList<>();
    Map<String, List<Chronicle.Copy>> copies = new HashMap<>();
    for (Map.Entry<Path, TestWorld.Truth> file : world.truth.entrySet()) {
      TestWorld.Truth truth = file.getValue();
      boolean live = world.documents.stream().anyMatch(d -> d.live().equals(file.getKey()));
      HealthReport report = reports.get(file.getKey());
      if (truth.damaged()) {
        assertThat(report.verdict()).as("%s", file.getKey()).isNotEqualTo(Verdict.INTACT);
      }
      Optional<DocumentMatcher.Tie> tie = Optional.ofNullable(ties.get(file.getKey()));
      if (!live) {
        belonging += truth.document() == null ? 0 : 1;
        tied += tie.isPresent() ? 1 : 0;
        boolean good = tie.map(t -> t.document().equals(truth.document())).orElse(false);
        right += good ? 1 : 0;
        if (!Objects.equals(
            tie.map(DocumentMatcher.Tie::document).orElse(null), truth.document())) {
          wrong.add(world.root.relativize(file.getKey()) + " tied to " + tie);
        }
      }
      if (truth.document() != null && !truth.damaged() && (live || tie.isPresent())) {
        copies
            .computeIfAbsent(truth.document(), k -> new ArrayList<>())
            .add(copy(file.getKey(), tie.orElse(null), report));
      }
    }
    double precision = (double) right / tied;
    double recall = (double) right / belonging;
    int[] order = order(world, copies);
    System.out.printf(
        "World %d: %d files in %d folders; ties: precision %.4f, recall %.4f;"
            + " neighbours in order %d of %d, order unknown for %d versions%n",
        seed,
        world.truth.size(),
        world.truth.keySet().stream().map(Path::getParent).distinct().count(),
        precision,
        recall,
        order[0],
        order[1],
        order[2]);
    assertThat(precision).as("%s", wrong).isGreaterThanOrEqualTo(0.99);
    assertThat(recall).as("%s", wrong).isGreaterThanOrEqualTo(0.99);
    assertThat(order[0]).isEqualTo(order[1]);
  }

  /**
   * How many neighbours whose order is said to be known stand as the work was done; of how many.
   */
  private static int[] order(TestWorld world, Map<String, List<Chronicle.Copy>> copies) {
    int[] counts = new int[3];
    copies.forEach(
        (id, all) -> {
          TestWorld.Doc doc = world.byId().get(id);
          Map<String, Integer> truth = new HashMap<>();
          for (int s = 0; s < doc.states().size(); s++) {
            truth.put(ContentHash.of(doc.states().get(s)).toString(), s);
          }
          List<VersionOrder.Placed> placed = new Chronicle(ZoneOffset.UTC).order(all);
          List<VersionOrder.Placed> known =
              placed.stream().filter(VersionOrder.Placed::orderKnown).toList();
          counts[2] += placed.size() - known.size();
          for (int i = 0; i + 1 < known.size(); i++) {
            counts[1]++;
            boolean rises = truth.get(known.get(i).state()) < truth.get(known.get(i + 1).state());
            counts[0] += rises ? 1 : 0;
            if (!rises) {
              System.out.println(
                  id + " out of order: " + known.get(i) + " before " + known.get(i + 1));
            }
          }
        });
    return counts;
  }

  private Chronicle.Copy copy(Path path, DocumentMatcher.Tie tie, HealthReport report)
      throws IOException {
    return new Chronicle.Copy(
        ContentHash.of(Files.readAllBytes(path)).toString(),
        path,
        Files.getLastModifiedTime(path).toInstant(),
        null,
        false,
        tie == null ? null : tie.pattern(),
        tie == null ? NameFields.of("", "") : tie.fields(),
        null,
        null,
        report.inventory().step());
  }

  private List<DocumentMatcher.Subject> subjects(TestWorld world) throws IOException {
    List<DocumentMatcher.Subject> subjects = new ArrayList<>();
    for (TestWorld.Doc doc : world.documents) {
      List<Sketch> sketches = new ArrayList<>();
      for (byte[] state : List.of(doc.states().get(0), doc.states().get(8))) {
        sketches.add(Sketch.of(new ByteArrayInputStream(state)));
      }
      subjects.add(
          new DocumentMatcher.Subject(
              doc.id(),
              doc.live(),
              world.folder(doc.project()),
              List.of("*." + doc.ext()),
              world.sheet(doc.project()),
              sketches,
              parts(check.inspect(doc.live(), doc.live().getFileName().toString()))));
    }
    return subjects;
  }

  private HealthReport inspect(TestWorld world, Path file, TestWorld.Truth truth) {
    String name =
        truth.document() == null
            ? file.getFileName().toString()
            : world.byId().get(truth.document()).live().getFileName().toString();
    return check.inspect(file, name);
  }

  private static Set<String> parts(HealthReport report) {
    return report.inventory().parts().stream()
        .map(Part::exact)
        .filter(Objects::nonNull)
        .collect(Collectors.toSet());
  }

  private static Sketch sketch(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return Sketch.of(in);
    }
  }
}
