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
      Map<Role, List<RunFolder.StepFile>> files,
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
    List<Source> sources = new ArrayList<>();
    List<String> lacks = new ArrayList<>(order.lacks());
    if (disk.facts(order.setup()).filter(FileFacts::isFile).isPresent()) {
      sources.add(source(Role.SETUP, order.setup()));
    } else {
      lacks.add("its set-up is missing");
    }
    for (Map.Entry<Role, List<RunFolder.StepFile>> files : order.files().entrySet()) {
      for (RunFolder.StepFile file : files.getValue()) {
        sources.add(source(files.getKey(), file.path()));
      }
    }
    List<SetRecord.Member> members = new ArrayList<>();
    for (Source source : sources) {
      members.add(member(order, source));
    }
    boolean still = stoodStill(sources);
    if (!still && !order.evenMoving()) {
      throw new SourceException.StillWritten(order.setup());
    }
    SetRecord set =
        new SetRecord(
            order.place().run(),
            order.place().step(),
            latest(sources),
            members,
            still,
            lacks,
            order.cause(),
            order.note());
    recoveries.record(new JournalEntry.SetTaken(clock.instant(), order.place().document(), set));
    return set;
  }

  /** A file and how it was before the first was read. */
  private record Source(Role role, Path path, FileFacts before) {}

  private Source source(Role role, Path path) throws IOException {
    return new Source(
        role, path, disk.facts(path).orElseThrow(() -> new NoSuchFileException(path.toString())));
  }

  private SetRecord.Member member(Order order, Source source) throws IOException {
    UUID document = order.place().document();
    boolean eachTime = order.project().planFor(document).runs().setupEachTime();
    BackupRecord copy =
        maker
            .capture(
                BackupOrder.ofMember(
                    order.project(),
                    document,
                    source.path(),
                    source.role(),
                    order.cause(),
                    eachTime && source.role() == Role.SETUP))
            .capture();
    return new SetRecord.Member(
        source.role(),
        RelativePath.of(order.setup().getParent(), source.path()),
        copy.content(),
        copy.state(),
        source.before().modified());
  }

  private boolean stoodStill(List<Source> sources) throws IOException {
    for (Source source : sources) {
      if (disk.facts(source.path()).filter(source.before()::sameAs).isEmpty()) {
        return false;
      }
    }
    return true;
  }

  /** The set-up may be older or, where somebody edits it while the run goes on, newer. */
  private static Instant latest(List<Source> sources) {
    return sources.stream()
        .filter(s -> s.role() != Role.SETUP || sources.size() == 1)
        .map(s -> s.before().modified())
        .max(Instant::compareTo)
        .orElseThrow();
  }
}
