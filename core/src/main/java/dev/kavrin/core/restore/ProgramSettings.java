package dev.kavrin.core.restore;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.settings.SettingsException;
import dev.kavrin.core.settings.SettingsLink;
import dev.kavrin.core.settings.SettingsText;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.Channels;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Map;
import java.util.UUID;

/**
 * Reads a program's own settings file and corrects single values in it. The former file always
 * stands aside, whole, and the journal says so before and after.
 */
public final class ProgramSettings {
  private static final DateTimeFormatter STAMP =
      DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HHmmss").withZone(ZoneOffset.UTC);

  private final Disk disk;
  private final Publisher publisher;
  private final InstantSource clock;

  public ProgramSettings(Disk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** A settings file as it stood when it was read. */
  public record Read(Path file, ContentId content, SettingsText text) {}

  /**
   * @throws SettingsException it is not of the kind the link says, is a link, or too large
   * @throws NoSuchFileException it is not there
   */
  public Read read(SettingsLink link, Path file) throws IOException {
    FileFacts facts = disk.facts(file).orElseThrow(() -> new NoSuchFileException(file.toString()));
    if (!facts.isFile()) {
      throw new SettingsException(file + " is no plain file. It was not touched.");
    }
    if (facts.size() > SettingsText.LARGEST) {
      throw new SettingsException(
          file
              + " is larger than "
              + SettingsText.LARGEST / 1_000_000
              + " MB, so it is no"
              + " settings file. It was not touched.");
    }
    try (InputStream in = Channels.newInputStream(disk.read(file))) {
      byte[] bytes = in.readNBytes((int) SettingsText.LARGEST + 1);
      return new Read(
          file, ContentHash.of(bytes), SettingsText.of(bytes, link.kind(), link.separator()));
    }
  }

  /**
   * Writes other values into a file.
   *
   * @param shown what the person was shown
   * @throws FileSystemException it was changed meanwhile, or cannot be written; nothing was changed
   */
  public JournalEntry.SettingsPut put(
      BackupFolders folders, UUID project, Read shown, Map<String, String> changes, String who)
      throws IOException {
    byte[] bytes = shown.text().with(changes).bytes();
    requireAsShown(shown.file(), shown.content());
    JournalEntry.SettingsPut put = put(project, shown.file(), aside(shown.file()), changes, who);
    return change(
        folders,
        new Operation.SettingsChange(put, ContentHash.of(bytes), shown.content()),
        sink -> sink.write(bytes, 0, bytes.length));
  }

  private JournalEntry.SettingsPut put(
      UUID project, Path file, Path aside, Map<String, String> changes, String who) {
    return new JournalEntry.SettingsPut(
        clock.instant(),
        UUID.randomUUID(),
        project,
        who,
        file.toString(),
        aside.toString(),
        changes,
        true);
  }

  private JournalEntry.SettingsPut change(
      BackupFolders folders, Operation.SettingsChange planned, Publisher.Filling filling)
      throws IOException {
    BackupFolder folder = folders.first();
    Operation operation = new Operation(planned.put().op(), planned);
    Path file = Path.of(planned.put().file());
    folder.begin(operation, clock.instant());
    try {
      ContentId former = publisher.replace(file, filling, Path.of(planned.put().aside()));
      if (!former.equals(planned.former())) {
        throw changedMeanwhile(file);
      }
      folder.done(operation, clock.instant());
    } catch (IOException | RuntimeException failed) {
      new JournalRecovery(disk, publisher, folder, Reach.EVERYWHERE, clock)
          .takeBack(operation, failed);
      throw failed;
    }
    folders.record(planned.put());
    return planned.put();
  }

  /** Takes a correction back: the former file is in use again, the corrected one stands aside. */
  public JournalEntry.SettingsPut undo(
      BackupFolders folders, JournalEntry.SettingsPut put, String who) throws IOException {
    Path file = Path.of(put.file());
    Path former = Path.of(put.aside());
    if (disk.facts(former).isEmpty()) {
      throw new NoSuchFileException(put.aside());
    }
    Path fresh = aside(file);
    ContentId back = publisher.identify(former);
    JournalEntry.SettingsPut undone =
        change(
            folders,
            new Operation.SettingsChange(
                put(put.project(), file, fresh, Map.of(), who), back, publisher.identify(file)),
            sink -> Copying.copy(disk, former, sink));
    publisher.takeAway(former, file);
    return undone;
  }

  private void requireAsShown(Path file, ContentId content) throws IOException {
    if (!publisher.identify(file).equals(content)) {
      throw changedMeanwhile(file);
    }
  }

  private static FileSystemException changedMeanwhile(Path file) {
    return new FileSystemException(
        file.toString(), null, "it was changed meanwhile. Look at it again; nothing was changed");
  }

  private Path aside(Path file) throws IOException {
    Path folder = file.resolveSibling(FolderMarker.FOLDER).resolve("aside");
    String stem = file.getFileName() + "-" + STAMP.format(clock.instant());
    Path free = folder.resolve(stem);
    for (int i = 2; disk.facts(free).isPresent(); i++) {
      free = folder.resolve(stem + "-" + i);
    }
    return free;
  }
}
