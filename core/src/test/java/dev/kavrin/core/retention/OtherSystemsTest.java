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
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.file.FileSystem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Backups are made, dropped, taken back and read anew on the files of other systems (Jimfs). */
class OtherSystemsTest implements InstantSource {
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

  @Override
  public Instant instant() {
    return now;
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

  @ParameterizedTest(name = "{0}")
  @MethodSource("systems")
  void versionsComeAndGoAndComeBackByteEqual(String name, Configuration system, String top)
      throws IOException {
    try (FileSystem files = Jimfs.newFileSystem(system)) {
      Path work = Files.createDirectories(files.getPath(top, "work", "lower station"));
      Path keep = Files.createDirectories(files.getPath(top, "keep"));
      new FolderMarker(FOLDER, "RECOVERY", "node", now).write(disk, publisher, keep);
      BackupFolder folder = BackupFolder.open(disk, keep, FOLDER, "node");
      BackupFolders all = BackupFolders.of(folder);
      ProjectRecord project = project(work, keep);
      all.record(new JournalEntry.ProjectSet(now, "Ilse Quarn", project));
      all.record(new JournalEntry.DocumentSet(now, DOCUMENT, project.id(), "cars/carriage-02.glb"));
      Path live = Files.createDirectories(work.resolve("cars")).resolve("carriage-02.glb");
      BackupMaker maker = new BackupMaker(disk, publisher, new HealthCheck(disk), all, this);
      List<ContentId> written = new ArrayList<>();
      for (int n = 1; n <= 4; n++) {
        Files.write(live, EngineFixture.model(n));
        written.add(Copying.identify(disk, live));
        maker.capture(
            BackupOrder.ofLive(project, DOCUMENT, live, "due", BackupOrder.How.CAREFULLY));
        now = now.plus(Duration.ofMinutes(20));
      }
      Retention retention = new Retention(disk, publisher, all, this);
      assertThat(retention.apply(project, DOCUMENT)).hasSize(2);

      History anew = BackupFolder.open(disk, keep, FOLDER, "node").history();
      assertThat(anew.captures(DOCUMENT)).hasSize(2);
      assertThat(anew.bin()).hasSize(2);
      assertThat(anew.captures(DOCUMENT))
          .extracting(BackupRecord::path)
          .allMatch(path -> path.startsWith("carriage/cars/") && !path.contains("\\"));

      for (History.Binned binned : folder.history().bin()) {
        retention.takeBack(binned.bin());
      }
      List<ContentId> standing = new ArrayList<>();
      for (BackupRecord record : folder.history().captures(DOCUMENT)) {
        Path file = folder.absolute(record.path());
        assertThat(Copying.identify(disk, file)).isEqualTo(record.content());
        standing.add(record.content());
      }
      assertThat(standing).containsExactlyInAnyOrderElementsOf(written);
    }
  }
}
