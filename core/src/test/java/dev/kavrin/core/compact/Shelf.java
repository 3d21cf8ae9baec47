package dev.kavrin.core.compact;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.keep.ClearOut;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.retention.Retention;
import java.io.IOException;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** A backup folder of one document whose backups are to be compacted, on any disk. */
final class Shelf {
  static final UUID DOCUMENT = new UUID(3, 4);
  static final Instant START = Instant.parse("2031-03-03T10:00:00Z");
  private static final UUID FOLDER = new UUID(1, 1);

  final CompactedDisk disk;
  final Publisher publisher;
  final BackupFolder folder;
  final Compactor compactor;
  final PackCleanup cleanup;
  final Retention retention;
  final Map<ContentId, byte[]> written = new HashMap<>();
  Instant now = START;

  private final ProjectRecord project;

  private Shelf(Disk plain, Path root) throws IOException {
    disk = new CompactedDisk(plain);
    publisher = new Publisher(disk, "node");
    folder = BackupFolder.open(disk, root, FOLDER, "node");
    InstantSource clock = () -> now;
    compactor = new Compactor(disk, publisher, clock);
    cleanup = new PackCleanup(disk, publisher, clock);
    retention = new Retention(disk, publisher, BackupFolders.of(folder), clock);
    project =
        ProjectRecord.of(
            new UUID(5, 6),
            "Carriage",
            "carriage",
            "/work",
            List.of("*.bin"),
            ProgramProfile.UNKNOWN,
            Plan.every(Duration.ofMinutes(1), Counts.newest(1000), Duration.ofMinutes(5)),
            List.of(root.toString()),
            "UTC");
  }

  /** A new one in a folder that is absent. */
  static Shelf fresh(Disk plain, Path root) throws IOException {
    plain.makeFolders(root.resolve(".kavrin/bin"));
    new FolderMarker(FOLDER, "RECOVERY", "node", START)
        .write(plain, new Publisher(plain, "node"), root);
    Shelf shelf = new Shelf(plain, root);
    shelf.folder.record(new JournalEntry.ProjectSet(START, "Ilse Quarn", shelf.project));
    shelf.folder.record(
        new JournalEntry.DocumentSet(START, DOCUMENT, shelf.project.id(), "carriage.bin"));
    return shelf;
  }

  /** As after a restart: everything from the journal, what was left open settled. */
  static Shelf again(Disk plain, Path root) throws IOException {
    Shelf shelf = new Shelf(plain, root);
    for (int i = 0; i < 2; i++) {
      assertThat(
              new JournalRecovery(
                      shelf.disk, shelf.publisher, shelf.folder, Reach.EVERYWHERE, () -> START)
                  .settle())
          .isEmpty();
    }
    return shelf;
  }

  BackupRecord add(byte[] bytes) throws IOException {
    now = now.plusSeconds(60);
    long sequence = folder.nextSequence(project, "carriage.bin", DOCUMENT);
    Path file = folder.nameFor(project, "carriage.bin", sequence, now);
    ContentId content =
        publisher.publish(file, sink -> sink.write(bytes, 0, bytes.length), PublishCheck.NONE);
    written.put(content, bytes);
    BackupRecord backup =
        new BackupRecord(
            DOCUMENT,
            CopyKind.CAPTURE,
            folder.relative(file),
            content.toString(),
            content,
            "/srv/tarnwick/carriage.bin",
            CopyKind.LIVE,
            now,
            now,
            sequence,
            "due",
            null,
            true,
            Verdict.INTACT,
            "",
            0,
            null,
            List.of());
    folder.record(new JournalEntry.Done(now, Operation.of(new Operation.Backup(backup))));
    return backup;
  }

  List<BackupRecord> standing() {
    return folder.history().captures(DOCUMENT);
  }

  /** Clears out by a person's word. */
  void drop(BackupRecord... backups) throws IOException {
    Set<String> states =
        Stream.of(backups).map(BackupRecord::state).collect(Collectors.toUnmodifiableSet());
    assertThat(retention.clearOut(new ClearOut(null, 0, false, 0), DOCUMENT, states, "Ilse Quarn"))
        .containsExactlyInAnyOrder(backups);
  }

  byte[] read(BackupRecord backup) throws IOException {
    try (SeekableByteChannel in = disk.read(folder.absolute(backup.path()))) {
      return Channels.newInputStream(in).readAllBytes();
    }
  }

  Compactor.Outcome compact(List<BackupRecord> which) throws IOException {
    return compactor.compact(folder, DOCUMENT, which);
  }

  /** All that stands and waits is what was written, and nothing else lies about. */
  void requireWhole() throws IOException {
    for (BackupRecord backup : standing()) {
      byte[] bytes = read(backup);
      assertThat(ContentHash.of(bytes)).as(backup.path()).isEqualTo(backup.content());
    }
    for (var binned : folder.history().bin()) {
      assertThat(publisher.identify(folder.absolute(binned.bin())))
          .as(binned.bin())
          .isEqualTo(binned.capture().content());
    }
    assertThat(folder.history().undone()).isEmpty();
  }

  /** Every file there is, as it lies there. */
  List<Path> files() throws IOException {
    List<Path> all = new ArrayList<>();
    collect(folder.root(), all);
    return all;
  }

  private void collect(Path at, List<Path> all) throws IOException {
    for (Path path : disk.plain().list(at)) {
      if (disk.plain().facts(path).orElseThrow().isFolder()) {
        collect(path, all);
      } else {
        all.add(path);
      }
    }
  }

  long bytes(String ending) throws IOException {
    long all = 0;
    for (Path file : files()) {
      if (file.toString().endsWith(ending)) {
        all += disk.plain().facts(file).orElseThrow().size();
      }
    }
    return all;
  }
}
