package dev.kavrin.bench;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;

/** A backup folder of one project, as Kavrin would have filled it. */
final class MadeBackups {
  static final String NODE = "bench";
  private static final Instant WORK = Instant.parse("2031-03-03T09:00:00Z");

  private final Publisher publisher;
  private final BackupFolder folder;
  private final ProjectRecord project;
  private final Set<UUID> documents = new HashSet<>();
  private long made;

  MadeBackups(Disk disk, Publisher publisher, Path root, Path work) throws IOException {
    this.publisher = publisher;
    this.folder = open(disk, publisher, root);
    this.project =
        ProjectRecord.of(
            new UUID(3, 3),
            "Carriage",
            "carriage",
            work.toString(),
            List.of("*.glb"),
            ProgramProfile.UNKNOWN,
            Plan.every(Duration.ofMinutes(10), Counts.newest(3), Duration.ofMinutes(15)),
            List.of(root.toString()),
            "UTC");
    folder.record(new JournalEntry.ProjectSet(WORK, "Ilse Quarn", project));
  }

  /** A new backup folder. */
  static BackupFolder open(Disk disk, Publisher publisher, Path root) throws IOException {
    UUID uuid = UUID.randomUUID();
    Files.createDirectories(root);
    new FolderMarker(uuid, "RECOVERY", NODE, WORK).write(disk, publisher, root);
    return BackupFolder.open(disk, root, uuid, NODE);
  }

  BackupFolder folder() {
    return folder;
  }

  ProjectRecord project() {
    return project;
  }

  /** Where the next backup goes. */
  Path next(UUID document, String path) throws IOException {
    if (documents.add(document)) {
      folder.record(new JournalEntry.DocumentSet(WORK, document, project.id(), path));
    }
    Path file = folder.nameFor(project, path, ++made, WORK.plusSeconds(60 * made));
    Files.createDirectories(file.getParent());
    return file;
  }

  /** Writes down what was put there. */
  BackupRecord record(UUID document, String path, Path file) throws IOException {
    ContentId content = publisher.identify(file);
    Instant work = WORK.plusSeconds(60 * made);
    BackupRecord backup =
        new BackupRecord(
            document,
            CopyKind.CAPTURE,
            folder.relative(file),
            content.toString(),
            content,
            path,
            CopyKind.LIVE,
            work,
            work,
            made,
            "due",
            null,
            true,
            Verdict.INTACT,
            "",
            0,
            null,
            List.of());
    folder.record(new JournalEntry.Done(work, Operation.of(new Operation.Backup(backup))));
    return backup;
  }
}
