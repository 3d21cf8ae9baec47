package dev.kavrin.server.platform;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.FolderMarker;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.Set;
import java.util.function.BooleanSupplier;

/**
 * Goes through a folder and all below it, hidden ones too. Links are not followed, a folder that
 * appears twice, as by a mount loop, is entered once.
 */
public final class Walk {
  private final Disk disk;
  private final BooleanSupplier stopped;
  private final Set<String> entered = new HashSet<>();

  public Walk(Disk disk, BooleanSupplier stopped) {
    this.disk = disk;
    this.stopped = stopped;
  }

  /** Told what is met on the way. */
  public interface Visitor {
    void folder(Path folder);

    void file(Path file, FileFacts facts) throws IOException;

    void closed(Path folder);
  }

  public void through(Path root, Visitor visitor) throws IOException {
    Deque<Path> open = new ArrayDeque<>();
    open.push(root);
    while (!open.isEmpty() && !stopped.getAsBoolean()) {
      Path folder = open.pop();
      try {
        visitor.folder(folder);
        for (Path path : disk.list(folder)) {
          if (stopped.getAsBoolean()) {
            return;
          }
          FileFacts facts = disk.facts(path).orElse(null);
          if (facts == null) {
            continue;
          } else if (facts.isFile()) {
            visitor.file(path, facts);
          } else if (facts.isFolder()
              && !path.getFileName().toString().equals(FolderMarker.FOLDER)
              && entered.add(facts.key())) {
            open.push(path);
          }
        }
      } catch (IOException unreadable) {
        visitor.closed(folder);
      }
    }
  }
}
