package dev.kavrin.server.folder;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/**
 * Where backups of a work folder could go: what takes backups already, and one folder on each disk
 * that can be reached; other disks than that of the work first, then the one with the most room.
 */
@Component
class BackupFolderProposals {
  private static final String NAME = "kavrin-backups";
  private static final int MOST = 4;
  private static final List<String> BEST_FIRST =
      List.of("another disk", "perhaps the same disk", "the same disk");

  private final FolderService folders;
  private final PathGuard guard;
  private final Disk disk;

  BackupFolderProposals(FolderService folders, PathGuard guard, Disk disk) {
    this.folders = folders;
    this.guard = guard;
    this.disk = disk;
  }

  /** Without those that could not take them; none is made. */
  List<FolderCheck> of(Path work) {
    List<FolderCheck> fit = new ArrayList<>();
    for (Path candidate : candidates(work)) {
      try {
        FolderCheck check =
            folders.check(candidate.toString(), FolderRole.RECOVERY, work.toString());
        if (check.faults().isEmpty()) {
          fit.add(check);
        }
      } catch (IOException | ProblemException unfit) {
        continue;
      }
    }
    return fit.stream()
        .sorted(
            Comparator.comparing((FolderCheck c) -> BEST_FIRST.indexOf(c.disk()))
                .thenComparing(c -> !c.exists())
                .thenComparing(Comparator.comparing(FolderCheck::free).reversed()))
        .limit(MOST)
        .toList();
  }

  private Collection<Path> candidates(Path work) {
    Map<String, Path> byDisk = new LinkedHashMap<>();
    for (Folder folder : folders.all()) {
      if (folder.role() == FolderRole.RECOVERY) {
        byDisk.putIfAbsent(folder.path().toString(), folder.path());
      }
    }
    for (Path root : guard.roots()) {
      take(byDisk, root, root.resolve(NAME));
      for (Path below : below(root)) {
        if (!device(below).equals(device(root))) {
          take(byDisk, below, below.resolve(NAME));
        }
      }
    }
    take(byDisk, work, work.resolveSibling(work.getFileName() + "-backups"));
    return byDisk.values();
  }

  private void take(Map<String, Path> byDisk, Path on, Path candidate) {
    byDisk.putIfAbsent(device(on), candidate);
  }

  private List<Path> below(Path root) {
    try {
      return disk.list(root);
    } catch (IOException unreadable) {
      return List.of();
    }
  }

  private String device(Path path) {
    try {
      return disk.device(path);
    } catch (IOException away) {
      return "";
    }
  }
}
