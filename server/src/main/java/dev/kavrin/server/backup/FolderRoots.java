package dev.kavrin.server.backup;

import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/** Which paths share their answers, because they hang on one share or drive. */
final class FolderRoots {
  private final List<Path> allowed;
  private final Set<Path> known = ConcurrentHashMap.newKeySet();

  /**
   * @param allowed under which folders may lie
   */
  FolderRoots(List<Path> allowed) {
    this.allowed = allowed;
  }

  void add(Path folder) {
    known.add(folder);
  }

  /** The innermost folder known, else the one just below an allowed root. */
  Path of(Path path) {
    for (Path p = path; p != null; p = p.getParent()) {
      if (known.contains(p)) {
        return p;
      }
    }
    return allowed.stream()
        .filter(root -> path.startsWith(root) && !path.equals(root))
        .findFirst()
        .map(root -> root.resolve(path.getName(root.getNameCount())))
        .orElse(path.getRoot());
  }
}
