package dev.kavrin.core.journal;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SameBytes;
import dev.kavrin.core.pack.CompactedDisk;
import java.io.IOException;
import java.nio.file.Path;

/** Settles what happens within a backup folder, and leftovers beside the work. */
final class BackupSettlement {
  private static final String NOT_BEGUN = "not begun before the stop";

  private final Disk disk;
  private final Publisher publisher;
  private final BackupFolder folder;

  BackupSettlement(Disk disk, Publisher publisher, BackupFolder folder) {
    this.disk = disk;
    this.publisher = publisher;
    this.folder = folder;
  }

  Settled settle(Operation.Planned planned) throws IOException {
    if (planned instanceof Operation.Backup p) {
      return backup(p.backup());
    }
    if (planned instanceof Operation.Drop p) {
      return moved(folder.owned(p.path()), folder.owned(p.bin()));
    }
    if (planned instanceof Operation.TakeBack p) {
      return moved(folder.owned(p.bin()), folder.owned(p.path()));
    }
    if (planned instanceof Operation.Purge p) {
      return isThere(folder.owned(p.bin())) ? Settled.takenBack(NOT_BEGUN) : Settled.DONE;
    }
    if (planned instanceof Operation.Compact p) {
      return compacted(p);
    }
    if (planned instanceof Operation.Recompact p) {
      return recompacted(p);
    }
    if (planned instanceof Operation.ClearPack p) {
      return isThere(folder.owned(p.pack())) ? Settled.takenBack(NOT_BEGUN) : Settled.DONE;
    }
    return cleared((Operation.ClearLeftover) planned);
  }

  /** A recipe under its name was unpacked and compared, so that the plain bytes may go. */
  private Settled compacted(Operation.Compact planned) throws IOException {
    Path file = folder.owned(planned.path());
    Path bin = folder.owned(planned.bin());
    if (isThere(CompactedDisk.recipeOf(file))) {
      boolean plain = disk.facts(file).filter(f -> !CompactedDisk.isCompacted(f)).isPresent();
      if (plain && isThere(bin)) {
        return moved(file, bin);
      }
      if (plain) {
        publisher.move(file, bin);
      }
      return Settled.DONE;
    }
    if (isThere(bin) && !isThere(file)) {
      publisher.move(bin, file);
    }
    return Settled.takenBack("no recipe stood before the stop");
  }

  /** Both recipes give the same bytes: that under the backup's name stays, whichever it is. */
  private Settled recompacted(Operation.Recompact planned) throws IOException {
    Path recipe = CompactedDisk.recipeOf(folder.owned(planned.path()));
    Path former = CompactedDisk.recipeOf(folder.owned(planned.bin()));
    if (isThere(former) && !isThere(recipe)) {
      publisher.move(former, recipe);
    } else if (isThere(former)) {
      publisher.purge(former);
    }
    return Settled.DONE;
  }

  private boolean isThere(Path file) throws IOException {
    return disk.facts(file).isPresent();
  }

  /** The whole record was known before the name was given: it is that file or none of ours. */
  private Settled backup(BackupRecord planned) throws IOException {
    Path file = folder.owned(planned.path());
    if (!isThere(file)) {
      return Settled.takenBack("nothing was published before the stop");
    }
    return publisher.identify(file).equals(planned.content())
        ? Settled.DONE
        : Settled.takenBack("what stands under its name is another file, and stays");
  }

  private Settled moved(Path from, Path to) throws IOException {
    boolean there = isThere(from);
    if (there && !isThere(to)) {
      return Settled.takenBack(NOT_BEGUN);
    }
    if (there && !SameBytes.in(disk, from, to)) {
      return Settled.takenBack("both names stand with different bytes; both are left");
    }
    if (there) {
      publisher.purge(from);
    }
    return Settled.DONE;
  }

  /** What got another name and was not compared yet gets its own back. */
  private Settled cleared(Operation.ClearLeftover planned) throws IOException {
    Path file = folder.named(planned.file());
    if (planned.aside() == null) {
      return Settled.takenBack("left as it stands");
    }
    Path aside = folder.named(planned.aside());
    if (isThere(aside)) {
      if (!isThere(file)) {
        publisher.move(aside, file);
      }
      return Settled.takenBack("stopped before it was compared; nothing was taken away");
    }
    return isThere(file) ? Settled.takenBack(NOT_BEGUN) : Settled.DONE;
  }
}
