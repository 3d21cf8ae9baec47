package dev.kavrin.core.retention;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.common.jimfs.Configuration;
import com.google.common.jimfs.Jimfs;
import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.Operation.Replacement;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.version.Manifest;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.file.FileSystem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Backups are made, dropped, taken back, restored and read anew on the files of other systems
 * (Jimfs).
 */
class OtherSystemsTest {
  private static final UUID DOCUMENT = new UUID(2, 2);
  private static final UUID FOLDER = new UUID(1, 1);

  private final RealDisk disk = new RealDisk();
  private final Publisher publisher = new Publisher(disk, "node");
  private Instant now = Instant.parse("2031-03-03T09:00:00Z");

  static Stream<Arguments> systems() {
    return Stream.of(
        Arguments.of("Windows", Configuration.windows(), "C:\\"),
        Arguments.of("macOS", Configuration.osX(), "/"),
        Arguments.of("another Unix", Configuration.unix(), "/"));
  }

  private static ProjectRecord project(Path work, Path keep) {
    return ProjectRecord.of(
        new UUID(3, 3),
        "Carriage",
        "carriage",
        work.toString(),
        List.of("*.glb"),
        new ProgramProfile(
            "Modeller", "modeller", NamePattern.of(".{stem}.open"), null, List.of(), null),
        Plan.every(Duration.ofMinutes(10), Counts.newest(2), Duration.ofMinutes(15)),
        List.of(keep.toString()),
        "UTC");
  }

  /** Folders on such a system, and four versions of one document. */
  private final class Place {
    final Path live;
    final Path keep;
    final BackupFolder folder;
    final BackupFolders all;
    final ProjectRecord project;
    final List<ContentId> written = new ArrayList<>();

    Place(FileSystem files, String top) throws IOException {
      Path work = Files.createDirectories(files.getPath(top, "work", "lower station"));
      keep = Files.createDirectories(files.getPath(top, "keep"));
      new FolderMarker(FOLDER, "RECOVERY", "node", now).write(disk, publisher, keep);
      folder = BackupFolder.open(disk, keep, FOLDER, "node");
      all = BackupFolders.of(folder);
      project = project(work, keep);
      all.record(new JournalEntry.ProjectSet(now, "Ilse Quarn", project));
      all.record(new JournalEntry.DocumentSet(now, DOCUMENT, project.id(), "cars/carriage-02.glb"));
      live = Files.createDirectories(work.resolve("cars")).resolve("carriage-02.glb");
      BackupMaker maker =
          new BackupMaker(
              disk, publisher, new HealthCheck(disk), all, () -> OtherSystemsTest.this.now);
      for (int n = 1; n <= 4; n++) {
        Files.write(live, EngineFixture.model(n));
        written.add(Copying.identify(disk, live));
        maker.capture(
            BackupOrder.ofLive(project, DOCUMENT, live, "due", BackupOrder.How.CAREFULLY));
        now = now.plus(Duration.ofMinutes(20));
      }
    }

    Path copy(int version) throws IOException {
      return folder.history().captures(DOCUMENT).stream()
          .filter(b -> b.content().equals(written.get(version - 1)))
          .map(b -> folder.absolute(b.path()))
          .findFirst()
          .orElseThrow();
    }

    History anew() throws IOException {
      return BackupFolder.open(disk, keep, FOLDER, "node").history();
    }
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("systems")
  void versionsComeAndGoAndComeBackByteEqual(String name, Configuration system, String top)
      throws IOException {
    try (FileSystem files = Jimfs.newFileSystem(system)) {
      Place place = new Place(files, top);
      Retention retention = new Retention(disk, publisher, place.all, () -> now);
      assertThat(retention.apply(place.project, DOCUMENT)).hasSize(2);

      History anew = place.anew();
      assertThat(anew.captures(DOCUMENT)).hasSize(2);
      assertThat(anew.bin()).hasSize(2);
      assertThat(anew.captures(DOCUMENT))
          .extracting(BackupRecord::path)
          .allMatch(path -> path.startsWith("carriage/cars/") && !path.contains("\\"));

      for (History.Binned binned : place.folder.history().bin()) {
        retention.takeBack(binned.bin());
      }
      List<ContentId> standing = new ArrayList<>();
      for (BackupRecord record : place.folder.history().captures(DOCUMENT)) {
        Path file = place.folder.absolute(record.path());
        assertThat(Copying.identify(disk, file)).isEqualTo(record.content());
        standing.add(record.content());
      }
      assertThat(standing).containsExactlyInAnyOrderElementsOf(place.written);
    }
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("systems")
  void aVersionIsRestoredAndTheRestoreUndone(String name, Configuration system, String top)
      throws IOException {
    try (FileSystem files = Jimfs.newFileSystem(system)) {
      Place place = new Place(files, top);
      Restorer restorer =
          new Restorer(disk, publisher, new HealthCheck(disk), place.folder, () -> now);
      for (RestoreMode mode : RestoreMode.values()) {
        RestorePlan plan =
            restorer
                .planner()
                .plan(mode, place.copy(2), place.live, now, ZoneOffset.UTC, place.keep);
        Receipt receipt =
            restorer.restore(new Restorer.Order(plan, DOCUMENT, CopyKind.CAPTURE), "Ilse Quarn");
        assertThat(receipt.verdict()).isEqualTo(Verdict.INTACT);
        assertThat(Copying.identify(disk, plan.target())).isEqualTo(place.written.get(1));
        if (mode == RestoreMode.REPLACE) {
          assertThat(Copying.identify(disk, plan.aside())).isEqualTo(place.written.get(3));
        }

        Receipt undone = restorer.undo(receipt, "Ilse Quarn");
        assertThat(Copying.identify(disk, place.live)).isEqualTo(place.written.get(3));
        assertThat(Copying.identify(disk, place.folder.named(undone.aside())))
            .as("what was restored stands aside")
            .isEqualTo(place.written.get(1));
        now = now.plusSeconds(60);
      }
      assertThat(place.anew().undone()).isEmpty();
    }
  }

  /** Begun and not ended, as a kill between two of its lines leaves it. */
  @ParameterizedTest(name = "{0}")
  @MethodSource("systems")
  void aRestoreThatWasCutShortIsTakenBack(String name, Configuration system, String top)
      throws IOException {
    try (FileSystem files = Jimfs.newFileSystem(system)) {
      Place place = new Place(files, top);
      ContentId then = place.written.get(1);
      Path aside = place.live.resolveSibling("carriage-02-aside.glb");
      Receipt planned =
          new Receipt(
              DOCUMENT,
              "Ilse Quarn",
              "replace",
              Manifest.ofFile(then).digest(),
              place.copy(2).toString(),
              place.live.toString(),
              aside.toString(),
              then,
              place.written.get(3),
              Verdict.NOT_CHECKED,
              "",
              CopyKind.CAPTURE,
              null);
      UUID op = new UUID(7, 7);
      place.folder.begin(
          new Operation(
              op,
              new Operation.Restore(
                  List.of(new Replacement(op, planned, Operation.Change.REPLACE, planned.target())),
                  null)),
          now);
      publisher.layReady(place.copy(2), aside, (stage, content) -> {});

      BackupFolder again = BackupFolder.open(disk, place.keep, FOLDER, "node");
      new JournalRecovery(disk, publisher, again, Reach.EVERYWHERE, () -> now).settle();
      assertThat(again.history().undone()).isEmpty();
      assertThat(Copying.identify(disk, place.live)).isEqualTo(place.written.get(3));
      try (Stream<Path> beside = Files.list(place.live.getParent())) {
        assertThat(beside.filter(Files::isRegularFile)).containsExactly(place.live);
      }
    }
  }
}
