package dev.kavrin.core.backup;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.version.SetRule.Role;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;

/**
 * Copies the files of one step as they belong together: all are looked at before the first is read
 * and again after the last.
 */
public final class SetBackup {
  private final Disk disk;
  private final BackupFolders recoveries;
  private final BackupMaker maker;
  private final Clockwork clock;

  public SetBackup(Disk disk, BackupFolders recoveries, BackupMaker maker, Clockwork clock) {
    this.disk = disk;
    this.recoveries = recoveries;
    this.maker = maker;
    this.clock = clock;
  }

  /**
   * What to take.
   *
   * @param setup the set-up file
   * @param files the step's other files that are wanted
   * @param lacks what is missing for a whole step, in words
   */
  public record Order(
      ProjectRecord project,
      Place place,
      Path setup,
      Map<Role, RunFolder.StepFile> files,
      List<String> lacks,
      String cause,
      String note,
      boolean evenMoving) {}

  /** Which document, run and step. */
  public record Place(UUID document, long run, long step) {}

  /**
   * @throws SourceException.StillWritten a file changed meanwhile
   */
  public SetRecord take(Order order) throws IOException {
    Map<Role, Path> paths = new LinkedHashMap<>();
    List<String> lacks = new ArrayList<>(order.lacks());
    if (disk.facts(order.setup()).filter(FileFacts::isFile).isPresent()) {
      paths.put(Role.SETUP, order.setup());
    } else {
      lacks.add("its set-up is missing");
    }
    order.files().forEach((role, file) -> paths.put(role, file.path()));
    Map<Role, FileFacts> before = facts(paths);
    List<SetRecord.Member> members = new ArrayList<>();
    Path folder = order.setup().getParent();
    boolean eachTime = order.project().planFor(order.place().document()).runs().setupEachTime();
    for (Map.Entry<Role, Path> file : paths.entrySet()) {
      BackupRecord copy =
          maker
              .capture(
                  BackupOrder.ofMember(
                      order.project(),
                      order.place().document(),
                      file.getValue(),
                      file.getKey(),
                      order.cause(),
                      eachTime && file.getKey() == Role.SETUP))
              .capture();
      members.add(
          new SetRecord.Member(
              file.getKey(),
              RelativePath.of(folder, file.getValue()),
              copy.content(),
              copy.state(),
              before.get(file.getKey()).modified()));
    }
    boolean still = stoodStill(paths, before);
    if (!still && !order.evenMoving()) {
      throw new SourceException.StillWritten(order.setup());
    }
    SetRecord set =
        new SetRecord(
            order.place().run(),
            order.place().step(),
            latest(before),
            members,
            still,
            lacks,
            order.cause(),
            order.note());
    recoveries.record(new JournalEntry.SetTaken(clock.instant(), order.place().document(), set));
    return set;
  }

  private Map<Role, FileFacts> facts(Map<Role, Path> paths) throws IOException {
    Map<Role, FileFacts> facts = new LinkedHashMap<>();
    for (Map.Entry<Role, Path> file : paths.entrySet()) {
      facts.put(
          file.getKey(),
          disk.facts(file.getValue())
              .orElseThrow(() -> new NoSuchFileException(file.getValue().toString())));
    }
    return facts;
  }

  private boolean stoodStill(Map<Role, Path> paths, Map<Role, FileFacts> before)
      throws IOException {
    for (Map.Entry<Role, Path> file : paths.entrySet()) {
      if (disk.facts(file.getValue()).filter(before.get(file.getKey())::sameAs).isEmpty()) {
        return false;
      }
    }
    return true;
  }

  /** The set-up may be older or, where somebody edits it while the run goes on, newer. */
  private static Instant latest(Map<Role, FileFacts> facts) {
    return facts.entrySet().stream()
        .filter(f -> f.getKey() != Role.SETUP || facts.size() == 1)
        .map(f -> f.getValue().modified())
        .max(Instant::compareTo)
        .orElseThrow();
  }
}
