package dev.kavrin.core.journal;

import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.List;

/**
 * Whoever can write into a shared folder can write into its journal: a path in it counts only if it
 * stays in the folder, and a binned one only in the bin.
 */
final class SafePaths {
  private static final Path OWN = Path.of(FolderMarker.FOLDER);
  private static final Path BIN = OWN.resolve("bin");
  private static final Path PACKS = OWN.resolve("packs");

  private SafePaths() {}

  /** True if no relative path of the entry leads out of where it belongs. */
  static boolean in(JournalEntry entry) {
    if (entry instanceof JournalEntry.Begun e) {
      return in(e.operation().planned());
    }
    if (entry instanceof JournalEntry.Done e) {
      return in(e.operation().planned());
    }
    if (entry instanceof JournalEntry.DocumentSet e) {
      return staysInside(e.path());
    }
    if (entry instanceof JournalEntry.LinksSeen e) {
      return e.links().stream().allMatch(l -> staysInside(l.path()));
    }
    if (entry instanceof CopyElsewhere e) {
      return isBackup(e.object());
    }
    if (entry instanceof JournalEntry.ProjectSet e) {
      return isName(e.project().slug());
    }
    return true;
  }

  private static boolean in(Operation.Planned planned) {
    if (planned instanceof Operation.Backup p) {
      return isBackup(p.backup().path());
    }
    if (planned instanceof Operation.Drop p) {
      return isBackup(p.path()) && isBinned(p.bin());
    }
    if (planned instanceof Operation.TakeBack p) {
      return isBackup(p.path()) && isBinned(p.bin());
    }
    if (planned instanceof Operation.Purge p) {
      return isBinned(p.bin());
    }
    if (planned instanceof Operation.Compact p) {
      return isBackup(p.path()) && isBinned(p.bin());
    }
    if (planned instanceof Operation.Recompact p) {
      return (isBackup(p.path()) || isBinned(p.path())) && isBinned(p.bin());
    }
    if (planned instanceof Operation.ClearPack p) {
      return staysInside(p.pack()) && Path.of(p.pack()).startsWith(PACKS);
    }
    if (planned instanceof Operation.ClearLeftover p) {
      return isBackup(p.copy());
    }
    return true;
  }

  private static boolean isBackup(String path) {
    return staysInside(path) && !Path.of(path).startsWith(OWN);
  }

  private static boolean isBinned(String path) {
    return staysInside(path)
        && Path.of(path).getParent() != null
        && Path.of(path).getParent().equals(BIN);
  }

  private static boolean isName(String name) {
    return staysInside(name) && Path.of(name).getNameCount() == 1 && !Path.of(name).equals(OWN);
  }

  private static boolean staysInside(String text) {
    try {
      Path path = Path.of(text);
      return !text.isEmpty()
          && !path.isAbsolute()
          && path.equals(path.normalize())
          && !List.of("..", ".").contains(path.getName(0).toString());
    } catch (InvalidPathException unreadable) {
      return false;
    }
  }
}
