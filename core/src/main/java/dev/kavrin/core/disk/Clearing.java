package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/** Takes away what Kavrin itself put down: scratch, what was laid out to try, unfinished stages. */
final class Clearing {
  /** Folders whose folders may go as a whole. */
  private static final String SCRATCH = "scratch";

  private final Disk disk;
  private final FreeName names;
  private final String node;
  private final Unfinished unfinished;

  Clearing(Disk disk, FreeName names, String node, Unfinished unfinished) {
    this.unfinished = unfinished;
    this.disk = disk;
    this.names = names;
    this.node = node;
  }

  void scratch(Path folder) throws IOException {
    if (!folder.getParent().endsWith(SCRATCH)) {
      throw new IllegalArgumentException(folder + " is none of Kavrin's scratch folders");
    }
    all(folder);
  }

  private void all(Path folder) throws IOException {
    for (Path path : disk.list(folder)) {
      if (isFolder(path)) {
        all(path);
      } else {
        disk.unlink(path);
      }
    }
    disk.removeFolder(folder);
  }

  private boolean isFolder(Path path) throws IOException {
    return disk.facts(path).filter(FileFacts::isFolder).isPresent();
  }

  void laid(Path folder, Map<String, ContentId> laid) throws IOException {
    for (Map.Entry<String, ContentId> one : laid.entrySet()) {
      Path file = folder.resolve(one.getKey()).normalize();
      boolean ours =
          file.startsWith(folder)
              && disk.facts(file).filter(FileFacts::isFile).isPresent()
              && Copying.identify(disk, file).equals(one.getValue());
      if (ours) {
        disk.unlink(file);
      }
    }
    removeEmpty(folder);
  }

  private boolean removeEmpty(Path folder) throws IOException {
    boolean empty = true;
    for (Path path : disk.list(folder)) {
      empty &= isFolder(path) && removeEmpty(path);
    }
    if (empty) {
      disk.removeFolder(folder);
    }
    return empty;
  }

  /**
   * Those of a killed run; what this process is at stays. Reservations first: whether their files
   * were moved is told by the stages.
   */
  int stages(Path folder) throws IOException {
    List<Path> stages =
        disk.list(folder).stream()
            .filter(p -> StageName.ownedBy(p, node) && !unfinished.contains(p))
            .toList();
    for (Path stage : stages) {
      if (StageName.isReservation(stage)) {
        names.settle(stage);
      }
    }
    for (Path stage : stages) {
      if (!StageName.isReservation(stage)) {
        disk.unlink(stage);
      }
    }
    return stages.size();
  }
}
