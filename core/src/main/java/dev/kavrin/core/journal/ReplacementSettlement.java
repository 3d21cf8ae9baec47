package dev.kavrin.core.journal;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SameBytes;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.journal.Operation.Change;
import dev.kavrin.core.journal.Operation.Replacement;
import dev.kavrin.core.profile.CopyKind;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;

/** Settles files that were to be replaced or made: told by what stands under their names. */
final class ReplacementSettlement {
  private static final String STOPPED = "Completed after Kavrin was stopped midway.";
  private static final UUID NO_DOCUMENT = new UUID(0, 0);

  private final Disk disk;
  private final Publisher publisher;
  private final BackupFolder folder;
  private final Reach reach;

  ReplacementSettlement(Disk disk, Publisher publisher, BackupFolder folder, Reach reach) {
    this.disk = disk;
    this.publisher = publisher;
    this.folder = folder;
    this.reach = reach;
  }

  /** A change of a settings file, seen as the replacement it is. */
  Replacement of(Operation.SettingsChange change) {
    return new Replacement(
        change.put().op(),
        new Receipt(
            NO_DOCUMENT,
            change.put().who(),
            "settings",
            "",
            change.put().aside(),
            change.put().file(),
            change.put().aside(),
            change.content(),
            change.former(),
            Verdict.NOT_CHECKED,
            "",
            CopyKind.ASIDE,
            null),
        Change.REPLACE,
        null);
  }

  /**
   * @throws IOException a drive is away, or a path leads where nothing may be touched
   */
  void requireReach(List<Replacement> members) throws IOException {
    for (Replacement member : members) {
      for (Path file : files(member.receipt())) {
        switch (reach.of(member.receipt().document(), file)) {
          case HERE -> {}
          case AWAY -> throw new IOException(file + " is on a drive that is away; it waits");
          case FORBIDDEN ->
              throw new IOException(file + " lies where Kavrin may change nothing; it was left");
        }
      }
    }
  }

  private List<Path> files(Receipt receipt) {
    List<Path> files = new ArrayList<>(List.of(folder.named(receipt.target())));
    if (receipt.aside() != null) {
      files.add(folder.named(receipt.aside()));
    }
    return files;
  }

  boolean areDone(List<Replacement> members) throws IOException {
    boolean done = true;
    for (Replacement member : members) {
      done &= isDone(member);
    }
    return done;
  }

  private boolean isDone(Replacement member) throws IOException {
    Receipt planned = member.receipt();
    Path target = folder.named(planned.target());
    if (member.change() == Change.CREATE) {
      return holds(target, planned.content());
    }
    Path aside = folder.named(planned.aside());
    return switch (member.change()) {
      case REPLACE, SWAP -> wasSwapped(planned, target, aside);
      case MOVE_ASIDE -> !isThere(target) && isThere(aside);
      default -> isThere(target) && !isThere(aside);
    };
  }

  /** It was saved again since where neither is under the live name but the old one is aside. */
  private boolean wasSwapped(Receipt planned, Path target, Path aside) throws IOException {
    boolean same = planned.content().equals(planned.former());
    boolean waits = !same && holds(aside, planned.content());
    boolean live = holds(target, planned.content());
    boolean savedSince =
        !same
            && isThere(target)
            && holds(aside, planned.former())
            && !holds(target, planned.former());
    return live && !waits || savedSince;
  }

  private boolean isThere(Path file) throws IOException {
    return disk.facts(file).isPresent();
  }

  private boolean holds(Path file, ContentId content) throws IOException {
    return content != null
        && disk.facts(file)
            .filter(FileFacts::isFile)
            .filter(f -> f.size() == content.length())
            .isPresent()
        && publisher.identify(file).equals(content);
  }

  /** As planned; what is told says that nobody was there to check it. */
  Operation.Restore finished(Operation.Restore planned) {
    return new Operation.Restore(
        planned.members().stream().map(m -> m.with(told(m.receipt()))).toList(), planned.group());
  }

  private static Receipt told(Receipt planned) {
    return planned.told((planned.told() + " " + STOPPED).strip());
  }

  /**
   * @param others a file whose name somebody took meanwhile: it stays, whatever it holds; or null
   */
  Settled takeBack(List<Replacement> members, @Nullable Path others) throws IOException {
    for (int i = members.size() - 1; i >= 0; i--) {
      Replacement member = members.get(i);
      clearStages(member.receipt());
      takeBack(member, others);
    }
    return Settled.takenBack("not carried out; everything is as it was before");
  }

  private void clearStages(Receipt receipt) throws IOException {
    for (Path file : files(receipt)) {
      if (isThere(file.getParent())) {
        publisher.clearStages(file.getParent());
      }
    }
  }

  private void takeBack(Replacement member, @Nullable Path others) throws IOException {
    Receipt planned = member.receipt();
    Path target = folder.named(planned.target());
    Path source = folder.named(planned.source());
    if (member.change() == Change.CREATE) {
      if (!target.equals(others)) {
        takeAwayCopy(target, source, planned.content());
      }
      return;
    }
    Path aside = folder.named(planned.aside());
    if (aside.equals(others)) {
      return;
    }
    switch (member.change()) {
      case REPLACE -> putBack(planned, target, aside, source);
      case SWAP -> {
        if (wasSwapped(planned, target, aside) && holds(target, planned.content())) {
          publisher.swap(target, aside);
        }
      }
      case MOVE_ASIDE -> moveBack(aside, target);
      default -> moveBack(target, aside);
    }
  }

  /** Midway both names may stand for one file. */
  private void moveBack(Path to, Path from) throws IOException {
    if (isThere(to) && !isThere(from)) {
      publisher.move(to, from);
    } else if (isThere(to) && SameBytes.in(disk, to, from)) {
      publisher.purge(to);
    }
  }

  private void putBack(Receipt planned, Path target, Path aside, Path source) throws IOException {
    Path again = aside.resolveSibling(aside.getFileName() + "-back");
    takeAwayCopy(again, aside, planned.former());
    if (wasSwapped(planned, target, aside) && holds(target, planned.content())) {
      if (!publisher.swap(target, aside)) {
        publisher.layReady(aside, again, PublishCheck.NONE);
        publisher.replace(target, again);
        takeAwayCopy(again, source, planned.content());
      }
    }
    takeAwayCopy(again, source, planned.content());
    takeAwayCopy(aside, source, planned.content());
    takeAwayCopy(aside, target, planned.former());
  }

  /** Takes away a copy of ours; only while the same bytes stand elsewhere. */
  private void takeAwayCopy(Path copy, Path same, ContentId content) throws IOException {
    boolean twice =
        !copy.equals(same)
            && holds(copy, content)
            && isThere(same)
            && SameBytes.in(disk, copy, same);
    if (twice) {
      publisher.purge(copy);
    }
  }
}
