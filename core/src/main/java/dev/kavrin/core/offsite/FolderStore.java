package dev.kavrin.core.offsite;

import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.StageName;
import dev.kavrin.core.naming.RelativePath;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.Channels;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** A folder of another machine that is mounted here. */
public final class FolderStore implements Store {
  private final Disk disk;
  private final Publisher publisher;
  private final Path root;

  /**
   * @param root absolute path
   */
  public FolderStore(Disk disk, Publisher publisher, Path root) {
    this.disk = disk;
    this.publisher = publisher;
    this.root = root;
  }

  private Path path(String name) throws IOException {
    Path path = root.resolve(name).normalize();
    if (!path.startsWith(root) || path.equals(root)) {
      throw new IOException("'" + name + "' leads out of " + root);
    }
    return path;
  }

  private Path folder(String begin) throws IOException {
    int slash = begin.lastIndexOf('/');
    return slash < 0 ? root : path(begin.substring(0, slash));
  }

  @Override
  public List<StoredObject> list(String begin) throws IOException {
    List<StoredObject> found = new ArrayList<>();
    collect(folder(begin), found);
    return found.stream()
        .filter(o -> o.name().startsWith(begin))
        .sorted(Comparator.comparing(StoredObject::name))
        .toList();
  }

  private void collect(Path folder, List<StoredObject> found) throws IOException {
    List<Path> all;
    try {
      all = disk.list(folder);
    } catch (NoSuchFileException nothing) {
      return;
    }
    for (Path path : all) {
      Optional<FileFacts> facts = disk.facts(path);
      if (facts.filter(FileFacts::isFolder).isPresent()) {
        collect(path, found);
      } else if (facts.filter(FileFacts::isFile).isPresent() && !StageName.is(path)) {
        found.add(object(path, facts.get()));
      }
    }
  }

  private StoredObject object(Path path, FileFacts facts) {
    return new StoredObject(RelativePath.of(root, path), facts.size(), facts.modified(), null);
  }

  @Override
  public List<String> folders(String begin) throws IOException {
    List<String> found = new ArrayList<>();
    for (Path path : disk.list(folder(begin))) {
      if (disk.facts(path).filter(FileFacts::isFolder).isPresent()) {
        found.add(path.getFileName().toString());
      }
    }
    return found.stream().sorted().toList();
  }

  @Override
  public Optional<StoredObject> find(String name) throws IOException {
    Path path = path(name);
    return disk.facts(path).filter(FileFacts::isFile).map(f -> object(path, f));
  }

  @Override
  public Arrival put(String name, Body body) throws IOException {
    Path path = path(name);
    if (disk.facts(path).isPresent()) {
      return Arrival.NAME_TAKEN;
    }
    disk.makeFolders(path.getParent());
    try (InputStream in = body.from(0)) {
      publisher.publish(path, sink -> Copying.copy(in, sink), PublishCheck.NONE);
      return Arrival.UNPROVEN;
    } catch (FileAlreadyExistsException there) {
      return Arrival.NAME_TAKEN;
    }
  }

  @Override
  public InputStream get(String name) throws IOException {
    return Channels.newInputStream(disk.read(path(name)));
  }

  @Override
  public void delete(String name) throws IOException {
    Path path = path(name);
    if (disk.facts(path).isPresent()) {
      publisher.purge(path);
    }
  }
}
