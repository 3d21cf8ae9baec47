package dev.kavrin.core.retention;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Limits that hold for several documents at once, on real files and journals. */
class SharedRoomTest extends EngineFixture {
  private static final Plan PLENTY =
      Plan.every(Duration.ofMinutes(10), Counts.newest(1000), Duration.ofMinutes(15));

  private final List<UUID> documents = new ArrayList<>();
  private final Random random = new Random(21);

  private void documents(int count) throws IOException {
    for (int n = 0; n < count; n++) {
      UUID id = new UUID(5, n);
      documents.add(id);
      recoveries.record(
          new JournalEntry.DocumentSet(now, id, project.id(), "carriage-" + n + ".glb"));
    }
  }

  /** A version of up to 60 kB, and what the plan then drops. */
  private void save(int n, Retention retention) throws IOException {
    wait(Duration.ofMinutes(1 + random.nextInt(40)));
    byte[] bytes = heavy(random, 400 + random.nextInt(800));
    Path file = live.resolveSibling("carriage-" + n + ".glb");
    write(file, bytes);
    new BackupMaker(disk, publisher, health, recoveries, this)
        .capture(
            BackupOrder.ofLive(project, documents.get(n), file, "due", BackupOrder.How.CAREFULLY));
    retention.apply(project, documents.get(n));
  }

  /** What lies in a folder under any name but the journal's. */
  private static long onDisk(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(f -> f.toString().endsWith(".glb"))
          .mapToLong(f -> f.toFile().length())
          .sum();
    }
  }

  private static BackupRecord newest(BackupFolder folder, UUID document) {
    return folder.history().captures(document).stream()
        .max(Comparator.comparing(BackupRecord::sequence))
        .orElseThrow();
  }

  @Test
  void aProjectsRoomHoldsOverAllItsDocumentsAndTheBin() throws IOException {
    long limit = 1_000_000;
    start(PLENTY.within(limit), "keep");
    documents(4);
    for (int n = 0; n < 60; n++) {
      save(n < 30 ? n % 4 : 3, keeper);
      assertThat(onDisk(recovery.root())).as("after version %s", n).isLessThanOrEqualTo(limit);
    }
    for (UUID document : documents) {
      assertThat(newest(recovery, document).protects()).isTrue();
    }
    assertThat(
            documents.stream().limit(3).mapToInt(d -> recovery.history().captures(d).size()).sum())
        .as("of 23 versions of those nobody works on")
        .isLessThan(20);
    assertThat(recovery.history().undone()).isEmpty();
    History anew = BackupFolder.open(disk, recovery.root(), recovery.uuid(), "node").history();
    assertThat(anew.allCaptures()).hasSameSizeAs(recovery.history().allCaptures());
  }

  @Test
  void withoutALimitNothingGoes() throws IOException {
    start(PLENTY, "keep");
    documents(2);
    for (int n = 0; n < 20; n++) {
      save(n % 2, keeper);
    }
    assertThat(recovery.history().allCaptures()).hasSize(20);
    assertThat(recovery.history().bin()).isEmpty();
  }

  /** As of two backup folders on one disk. */
  @Test
  void roomOfADiskHoldsOverAllFoldersOnIt() throws IOException {
    long limit = 800_000;
    start(PLENTY, "keep", "keep-too");
    catchUp.tick(project);
    RoomLimits ofDisk =
        (all, folder, of) ->
            List.of(
                new SharedRoom(
                    folders.stream().map(f -> new SharedRoom.Holding(all, f, of)).toList(), limit));
    Retention retention = new Retention(disk, publisher, recoveries, ofDisk, this);
    documents(3);
    for (int n = 0; n < 30; n++) {
      save(n % 3, retention);
      assertThat(onDisk(folders.get(0).root()) + onDisk(folders.get(1).root()))
          .as("after version %s", n)
          .isLessThanOrEqualTo(limit);
    }
    for (BackupFolder folder : folders) {
      assertThat(folder.history().allCaptures()).isNotEmpty();
    }
  }

  @Test
  void whatAPersonMarkedStaysWhateverTheLimit() throws IOException {
    start(PLENTY.within(150_000), "keep");
    documents(2);
    save(0, keeper);
    BackupRecord first = newest(recovery, documents.get(0));
    recoveries.record(
        new JournalEntry.Marked(
            now, documents.get(0), first.state(), "pinned", true, "Ilse Quarn", null));
    for (int n = 0; n < 12; n++) {
      save(n % 2, keeper);
    }
    assertThat(recovery.history().captures(documents.get(0))).contains(first);
    assertThat(recovery.history().captures(documents.get(0)).size()).isLessThan(4);
  }
}
