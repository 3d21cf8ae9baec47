package dev.kavrin.core.restore;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.Operation.Change;
import dev.kavrin.core.journal.Operation.Replacement;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.version.Manifest;
import java.io.IOException;
import java.nio.file.FileSystemException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;

/**
 * Carries out restores as one operation: everything is made ready first, which may take long and
 * touches nothing a person has; then names are changed one after the other, which is short. What
 * fails is taken back.
 */
final class RestoreRun {
  private static final String SAVED_LATE =
      "The file was saved again at the last moment; that save stands aside too.";

  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final BackupFolder folder;
  private final InstantSource clock;

  RestoreRun(
      Disk disk,
      Publisher publisher,
      Inspector inspector,
      BackupFolder folder,
      InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.inspector = inspector;
    this.folder = folder;
    this.clock = clock;
  }

  /**
   * @return one receipt for each, in order
   * @throws IOException one failed; all are as they were before
   */
  List<Receipt> carryOut(Operation operation) throws IOException {
    Operation.Restore planned = (Operation.Restore) operation.planned();
    folder.begin(operation, clock.instant());
    Operation.Restore done;
    try {
      for (Replacement member : planned.members()) {
        layReady(member);
      }
      List<Replacement> members = new ArrayList<>();
      for (Replacement member : planned.members()) {
        members.add(member.with(put(member)));
      }
      done = new Operation.Restore(members, planned.group());
    } catch (IOException | RuntimeException failed) {
      new JournalRecovery(disk, publisher, folder, Reach.EVERYWHERE, clock)
          .takeBack(operation, failed);
      throw failed;
    }
    end(operation.with(done));
    letGoOfSources(done.members());
    return done.receipts();
  }

  private void end(Operation done) throws IOException {
    try {
      folder.done(done, clock.instant());
    } catch (IOException | RuntimeException failed) {
      folder.leftOpen(done);
      throw new IOException(
          "It was carried out, but that could not be written down in "
              + folder.root()
              + " ("
              + failed.getMessage()
              + "). Its receipt follows as soon as it can be.",
          failed);
    }
  }

  private void layReady(Replacement member) throws IOException {
    Receipt planned = member.receipt();
    if (member.change() == Change.REPLACE) {
      publisher.layReady(
          folder.named(planned.source()), folder.named(planned.aside()), asPlanned(planned));
    }
  }

  /** What is read while it is copied is what was planned, or it gets no name. */
  private PublishCheck asPlanned(Receipt planned) {
    return (stage, content) -> {
      if (!content.equals(planned.content())) {
        throw new ChangedMeanwhileException(
            folder.named(planned.source()), "was changed since it was shown");
      }
    };
  }

  private Receipt put(Replacement member) throws IOException {
    Receipt planned = member.receipt();
    Path target = folder.named(planned.target());
    if (member.change() == Change.CREATE) {
      disk.makeFolders(target.getParent());
      String like = member.like() == null ? planned.source() : member.like();
      publisher.copyLike(
          folder.named(planned.source()), target, folder.named(like), asPlanned(planned));
      return read(planned, target, planned.former(), planned.told());
    }
    Path aside = folder.named(planned.aside());
    switch (member.change()) {
      case REPLACE -> {
        ContentId former = publisher.replace(target, aside);
        return read(planned, target, former, told(planned, former));
      }
      case SWAP -> {
        if (!publisher.swap(target, aside)) {
          throw new FileSystemException(
              target.toString(), null, "the two files could not be swapped. Nothing was changed");
        }
        ContentId former = publisher.identify(aside);
        return read(planned, target, former, told(planned, former));
      }
      case MOVE_ASIDE -> {
        publisher.move(target, aside);
        return planned;
      }
      default -> {
        publisher.move(aside, target);
        return read(planned, target, null, planned.told()).withoutAside();
      }
    }
  }

  private static String told(Receipt planned, ContentId former) {
    return former.equals(planned.former()) || !planned.told().isEmpty()
        ? planned.told()
        : SAVED_LATE;
  }

  private Receipt read(Receipt planned, Path target, ContentId former, String told)
      throws IOException {
    ContentId content = publisher.identify(target);
    HealthReport report = inspector.inspect(target, target.getFileName().toString());
    return planned.as(Manifest.ofFile(content).digest(), content, former, report.verdict(), told);
  }

  /** An undo by copy leaves what it was copied from twice; one of them goes. */
  private void letGoOfSources(List<Replacement> members) throws IOException {
    for (Replacement member : members) {
      Receipt done = member.receipt();
      if (member.change() == Change.REPLACE && done.mode().equals(Restorer.UNDO)) {
        publisher.takeAway(folder.named(done.source()), folder.named(done.target()));
      }
    }
  }
}
