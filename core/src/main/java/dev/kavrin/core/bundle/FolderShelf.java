package dev.kavrin.core.bundle;

import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import java.io.IOException;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Set;

/**
 * A folder; what an earlier run finished in it is read again and kept, what it left unfinished is
 * cleared away.
 */
final class FolderShelf implements Shelf {
  private final Disk disk;
  private final Publisher publisher;
  private final Path folder;
  private final Set<Path> entered = new HashSet<>();

  FolderShelf(Disk disk, Publisher publisher, Path folder) {
    this.disk = disk;
    this.publisher = publisher;
    this.folder = folder;
  }

  @Override
  public Put put(String path, Filling filling, Long modifiedNanos) throws IOException {
    Path target = folder.resolve(path);
    disk.makeFolders(target.getParent());
    if (entered.add(target.getParent())) {
      publisher.clearStages(target.getParent());
    }
    if (disk.facts(target).isPresent()) {
      return stands(target, filling);
    }
    Digesting[] passed = new Digesting[1];
    publisher.publish(
        target,
        sink -> {
          passed[0] = new Digesting(sink);
          filling.into(passed[0]);
        },
        (stage, content) -> {
          if (modifiedNanos != null) {
            disk.touch(stage, modifiedNanos);
          }
        });
    return passed[0].put();
  }

  private Put stands(Path target, Filling filling) throws IOException {
    Digesting source = new Digesting(null);
    filling.into(source);
    Put wanted = source.put();
    Digesting there = new Digesting(null);
    Copying.copy(disk, target, there);
    if (!there.put().equals(wanted)) {
      throw new IOException(target + " stands there already and is another file");
    }
    return wanted;
  }
}
