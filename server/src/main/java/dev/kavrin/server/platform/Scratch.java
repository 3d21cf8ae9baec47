package dev.kavrin.server.platform;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.store.NoRoomException;
import java.io.IOException;
import java.nio.file.Path;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Folders for what is tried out; they go when it is done, those of a killed run at the start. */
@Component
public class Scratch {
  private static final Logger LOG = LoggerFactory.getLogger(Scratch.class);

  private final Disk disk;
  private final Publisher publisher;
  private final Path root;

  Scratch(Disk disk, Publisher publisher, Settings settings) {
    this.disk = disk;
    this.publisher = publisher;
    this.root = settings.data().resolve("scratch");
    clearAll();
  }

  private void clearAll() {
    try {
      if (disk.facts(root).filter(FileFacts::isFolder).isPresent()) {
        for (Path folder : disk.list(root)) {
          publisher.clearScratch(folder);
        }
      }
    } catch (IOException left) {
      LOG.warn("What an earlier rehearsal left could not be cleared: {}", left.getMessage());
    }
  }

  /** What is done in such a folder. */
  public interface Deed<T> {
    T in(Path folder) throws IOException;
  }

  /**
   * @throws NoRoomException not as many bytes are free
   */
  public <T> T with(long bytes, Deed<T> deed) throws IOException {
    disk.makeFolders(root);
    long free = disk.room(root);
    if (free < bytes) {
      throw new NoRoomException(root, bytes, free);
    }
    Path folder = root.resolve(UUID.randomUUID().toString());
    disk.makeFolders(folder);
    try {
      return deed.in(folder);
    } finally {
      publisher.clearScratch(folder);
    }
  }
}
