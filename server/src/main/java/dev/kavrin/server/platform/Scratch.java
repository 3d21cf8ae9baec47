package dev.kavrin.server.platform;

import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Folders for what is tried out; they go when it is done, those of a killed run at the start. */
@Component
public class Scratch {
  private static final Logger LOG = LoggerFactory.getLogger(Scratch.class);

  private static final String WRITES_INTO = "writes-into.txt";

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
          clear(folder);
        }
      }
    } catch (IOException left) {
      LOG.warn("What was left unfinished could not be cleared: {}", left.getMessage());
    }
  }

  /** What cannot be reached now is cleared at a later start. */
  private void clear(Path folder) {
    try {
      Path record = folder.resolve(WRITES_INTO);
      if (disk.facts(record).isPresent()) {
        publisher.clearStages(Path.of(Files.readString(record)));
      }
      publisher.clearScratch(folder);
    } catch (IOException away) {
      LOG.warn("What {} left unfinished stays for now: {}", folder, away.getMessage());
    }
  }

  /** What is done in such a folder. */
  public interface Work<T> {
    T in(Path folder) throws IOException;
  }

  /**
   * The same for what writes into a folder of a person: if Kavrin is killed on the way, what is
   * unfinished there is cleared away at the next start.
   */
  public <T> T writing(Path into, long bytes, Work<T> work) throws IOException {
    return with(
        bytes,
        folder -> {
          byte[] record = into.toString().getBytes(StandardCharsets.UTF_8);
          publisher.publish(
              folder.resolve(WRITES_INTO),
              sink -> sink.write(record, 0, record.length),
              PublishCheck.NONE);
          return work.in(folder);
        });
  }

  /**
   * @throws NoRoomException not as many bytes are free
   */
  public <T> T with(long bytes, Work<T> work) throws IOException {
    disk.makeFolders(root);
    long free = disk.room(root);
    if (free < bytes) {
      throw new NoRoomException(root, bytes, free);
    }
    Path folder = root.resolve(UUID.randomUUID().toString());
    disk.makeFolders(folder);
    try {
      return work.in(folder);
    } finally {
      publisher.clearScratch(folder);
    }
  }
}
