package dev.kavrin.core.restore;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.nio.file.Path;

/** Names nothing stands under. */
final class FreeNames {
  /** Bytes left for what is put behind a name while it is settled. */
  private static final int SPARE = 16;

  private final Disk disk;

  FreeNames(Disk disk) {
    this.disk = disk;
  }

  /** Beside a file, its name with something added. */
  Path beside(Path like, String infix) throws IOException {
    return free(like, 0, infix);
  }

  /** Where a file goes that is put aside: below its own folder, on the same drive. */
  Path aside(Path file, String infix) throws IOException {
    Path folder = file.resolveSibling(FolderMarker.FOLDER).resolve("aside");
    return free(folder.resolve(file.getFileName()), 0, infix, SPARE);
  }

  Path freeOrItself(Path wanted) throws IOException {
    return disk.facts(wanted).isEmpty() ? wanted : free(wanted, 1, "");
  }

  private Path free(Path like, int tried, String infix) throws IOException {
    return free(like, tried, infix, 0);
  }

  private Path free(Path like, int tried, String infix, int spare) throws IOException {
    FileName name = FileName.of(like.getFileName().toString());
    String suffix = infix + (tried == 0 ? "" : "-" + (tried + 1));
    String written = name.withSuffix(suffix, spare).written();
    Path path = like.resolveSibling(written);
    return disk.facts(path).isEmpty() ? path : free(like, tried + 1, infix, spare);
  }

  Path nextNumber(Path live) throws IOException {
    FileName name = FileName.of(live.getFileName().toString());
    for (int step = 1; ; step++) {
      Path path = live.resolveSibling(name.next(step).withSuffix("").written());
      if (disk.facts(path).isEmpty()) {
        return path;
      }
    }
  }

  /** The folder, or the nearest above it that is there. */
  static Path standing(Disk disk, Path folder) throws IOException {
    return disk.facts(folder).isPresent() || folder.getParent() == null
        ? folder
        : standing(disk, folder.getParent());
  }
}
