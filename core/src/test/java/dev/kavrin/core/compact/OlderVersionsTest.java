package dev.kavrin.core.compact;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.plan.Compacting;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.PlanFigures;
import dev.kavrin.core.plan.PlanInputs;
import dev.kavrin.core.replica.ReplicaSync;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.retention.Scrub;
import dev.kavrin.core.watch.EngineFixture;
import dev.kavrin.core.watch.FolderHours;
import java.io.IOException;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** When older versions are compacted by themselves, what that comes to, who mends them. */
class OlderVersionsTest extends EngineFixture {
  private static final Compacting WISH = new Compacting(true, 3, 10);

  private final CompactedDisk folded = new CompactedDisk(disk);
  private final Publisher folding = new Publisher(folded, "node");
  private final Random random = new Random(5);
  private float[] points;
  private int[] corners;

  private void begin(int keep, String... keeps) throws IOException {
    start(
        Plan.every(Duration.ofMinutes(10), Counts.newest(keep), Duration.ofMinutes(15)).with(WISH),
        keeps);
    points = new float[60_000];
    for (int i = 0; i < points.length; i++) {
      points[i] = random.nextFloat();
    }
    corners = new int[points.length / 3];
    Arrays.setAll(corners, i -> i);
  }

  /** A saved file of which a stretch is another each time. */
  private void save(int times) throws IOException {
    for (int n = 0; n < times; n++) {
      int from = random.nextInt(points.length - 4_000);
      for (int i = from; i < from + 4_000; i++) {
        points[i] = random.nextFloat();
      }
      GlbWriter writer = new GlbWriter();
      writer.mesh("part", -1, new MeshData(points.clone(), corners), null, null, -1);
      write(live, writer.bytes(Map.of()));
      watch.copyNow(DOCUMENT, null);
      catchUp.tick(project);
      wait(Duration.ofMinutes(20));
    }
  }

  private OlderVersions older(FolderHours.Rests rests) {
    return new OlderVersions(folded, folding, recoveries, rests, this);
  }

  private long compacted() {
    return captures().stream().filter(b -> recovery.history().isCompacted(b.path())).count();
  }

  private byte[] read(BackupRecord backup, int folder) throws IOException {
    try (SeekableByteChannel in = folded.read(folders.get(folder).absolute(backup.path()))) {
      return Channels.newInputStream(in).readAllBytes();
    }
  }

  @Test
  void onlyWhileNobodyWorksAndTheFolderDoesNotRest() throws IOException {
    begin(50, "keep");
    save(8);
    wait(Duration.ofMinutes(-10));
    older(FolderHours.Rests.NEVER).tick(project);
    assertThat(compacted()).as("saved ten minutes ago").isZero();
    wait(Duration.ofMinutes(10));
    older(place -> Optional.of("it rests until 22:00")).tick(project);
    assertThat(compacted()).as("out of hours").isZero();
    recovery.dropsPaused().set(true);
    older(FolderHours.Rests.NEVER).tick(project);
    assertThat(compacted()).as("drops are paused").isZero();
    recovery.dropsPaused().set(false);
    change(project.plan().with(Compacting.OFF));
    older(FolderHours.Rests.NEVER).tick(project);
    assertThat(compacted()).as("not in the plan").isZero();

    change(project.plan().with(WISH));
    older(FolderHours.Rests.NEVER).tick(project);

    assertThat(compacted()).as("one of every ten stays plain").isEqualTo(4);
    OlderVersions.Compacted now = older(FolderHours.Rests.NEVER).standing(project);
    assertThat(now.compacted()).isEqualTo(4);
    assertThat(now.due()).isZero();
    assertThat(now.stored()).isLessThan(now.plain() / 2);
  }

  @Test
  void whereItWouldPayThatIsFoundOutByItselfAndToldUntilThePlanWantsIt() throws IOException {
    begin(50, "keep");
    change(project.plan().with(Compacting.OFF));
    save(12);
    OlderVersions patient =
        new OlderVersions(
            folded, folding, recoveries, FolderHours.Rests.NEVER, this, Long.MAX_VALUE);
    OlderVersions older =
        new OlderVersions(folded, folding, recoveries, FolderHours.Rests.NEVER, this, 500_000);

    patient.tick(project);
    older.tick(project);

    assertThat(patient.proposal()).as("too little to speak of").isEmpty();
    CompactingProposal told = older.proposal().orElseThrow();
    assertThat(told.asIf()).isEqualTo(new Compacting(true, 5, 50));
    assertThat(told.comesTo().after()).isEqualTo(older.estimate(project, told.asIf()).after());
    assertThat(told.saves()).isGreaterThan(told.comesTo().before() / 2);
    assertThat(compacted()).as("nothing is done unasked").isZero();

    change(project.plan().with(told.asIf()));
    older.tick(project);
    assertThat(older.proposal()).isEmpty();
    assertThat(compacted()).isEqualTo(told.comesTo().versions());
  }

  /** A sector that fails is told and passed over; the others are compacted. */
  @Test
  void oneThatRottedIsToldAndStaysTheOthersAreCompacted() throws IOException {
    begin(50, "keep");
    save(8);
    BackupRecord second = captures().get(1);
    Path file = recovery.absolute(second.path());
    byte[] bytes = Files.readAllBytes(file);
    bytes[1000] ^= 1;
    Files.write(file, bytes);

    older(FolderHours.Rests.NEVER).tick(project);

    assertThat(compacted()).isEqualTo(3);
    assertThat(Files.readAllBytes(file)).as("untouched").isEqualTo(bytes);
    assertThat(captures().get(1).verdict()).isEqualTo(Verdict.DAMAGED);
    assertThat(captures().get(1).findings()).contains("Read to compact it");
  }

  @Test
  void whatIsMeasuredBeforehandIsWhatItComesTo() throws IOException {
    begin(50, "keep");
    save(30);
    OlderVersions older = older(FolderHours.Rests.NEVER);
    OlderVersions.Estimate told = older.estimate(project, WISH);

    Compactor.Outcome done = older.now(project, left -> {});

    assertThat(told.versions()).isEqualTo(done.versions()).isEqualTo(compacted());
    assertThat(told.measured()).isLessThan(told.versions());
    assertThat(told.before()).isEqualTo(done.before());
    assertThat((double) told.after()).isCloseTo(done.after(), within(0.1 * done.after()));
  }

  /** A month of work: what the plan forecasts and what the disk then holds. */
  @Test
  void theForecastIsWithinATenthOfTheDisk() throws IOException {
    begin(40, "keep");
    Retention dropping = new Retention(folded, folding, recoveries, this);
    OlderVersions older = older(FolderHours.Rests.NEVER);
    for (int day = 0; day < 20; day++) {
      save(6);
      dropping.apply(project, DOCUMENT);
      wait(Duration.ofHours(20));
      older.now(project, left -> {});
      dropping.emptyBin();
      if (day < 10) {
        continue;
      }
      long told =
          PlanFigures.of(
                  project.plan(),
                  new PlanInputs(
                      Files.size(live), null, null, null, 1, 1, Map.of(), older.share(project)))
              .footprint();
      assertThat((double) onDisk())
          .as(
              "day %s: %s of %s compacted, %s",
              day, compacted(), captures().size(), older.standing(project))
          .isCloseTo(told, within(0.1 * told));
    }
    for (BackupRecord backup : captures()) {
      assertThat(folding.identify(recovery.absolute(backup.path()))).isEqualTo(backup.content());
    }
  }

  /** Backups, recipes and packs; the bin has a limit and a forecast of its own. */
  private long onDisk() throws IOException {
    Path bin = recovery.bin();
    try (Stream<Path> all = Files.walk(recovery.root())) {
      return all.filter(p -> Files.isRegularFile(p) && !p.startsWith(bin))
          .filter(p -> p.toString().matches(".*\\.(glb|recipe|pack)"))
          .mapToLong(p -> p.toFile().length())
          .sum();
    }
  }

  /** Another folder has the bytes of what a damaged pack takes. */
  @Test
  void whatADamagedPackTakesComesBackFromAnotherFolder() throws IOException {
    begin(50, "keep", "shelf");
    save(8);
    older(FolderHours.Rests.NEVER).now(project, left -> {});
    List<BackupRecord> all = captures();
    List<byte[]> bytes = Stream.of(all.get(1), all.get(4)).map(this::bytes).toList();
    try (Stream<Path> files = Files.walk(recovery.root())) {
      for (Path pack : files.filter(p -> p.toString().endsWith(".pack")).toList()) {
        byte[] rotten = Files.readAllBytes(pack);
        Arrays.fill(rotten, rotten.length / 4, rotten.length / 2, (byte) 0);
        Files.write(pack, rotten);
      }
    }
    Scrub scrub = new Scrub(folded, folding, this);
    int lost = 0;
    for (BackupRecord backup : all) {
      lost += scrub.reread(recovery, backup) ? 0 : 1;
    }
    assertThat(lost).isBetween(1, 4);

    recoveries.fellBehind(recovery, "damaged");
    ReplicaSync sync = new ReplicaSync(folded, folding, recoveries, this);
    for (int i = 0; i < 5; i++) {
      sync.tick(project);
    }

    for (int i = 0; i < 2; i++) {
      BackupRecord wanted = all.get(1 + 3 * i);
      assertThat(captures())
          .filteredOn(b -> b.state().equals(wanted.state()))
          .filteredOn(b -> !recovery.history().isFaulty(b.path()))
          .isNotEmpty();
      BackupRecord mended =
          captures().stream()
              .filter(b -> b.state().equals(wanted.state()))
              .filter(b -> !recovery.history().isFaulty(b.path()))
              .findFirst()
              .orElseThrow();
      assertThat(read(mended, 0)).isEqualTo(bytes.get(i));
    }
  }

  private byte[] bytes(BackupRecord backup) {
    try {
      return read(backup, 0);
    } catch (IOException failed) {
      throw new java.io.UncheckedIOException(failed);
    }
  }
}
