package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;

/**
 * Puts a file that stands ready under the aside name in place of a live one, by the best way the
 * folder has: the two names swapped in one step; a second name for the live file and a rename over
 * it; a copy of the live file, looked at again, and a rename over it. At every instant the live
 * name is the old or the new file, whole; afterwards the old one stands aside.
 */
final class Replacing {
  private final Disk disk;
  private final Publisher publisher;
  private final String node;
  private final Unfinished unfinished;

  Replacing(Disk disk, Publisher publisher, String node, Unfinished unfinished) {
    this.disk = disk;
    this.publisher = publisher;
    this.node = node;
    this.unfinished = unfinished;
  }

  /**
   * @param aside holds what is to be live; afterwards what was live
   * @return what was live
   * @throws FileSystemException the live file was saved meanwhile; nothing was changed
   */
  ContentId replace(Path live, Path aside) throws IOException {
    disk.adoptOwnership(live, aside);
    if (publisher.swap(live, aside)) {
      return publisher.identify(aside);
    }
    Path ready = unfinished.begin(StageName.in(live.getParent(), node));
    try {
      return replaceBy(ready, live, aside);
    } finally {
      unfinished.end(ready);
    }
  }

  private ContentId replaceBy(Path ready, Path live, Path aside) throws IOException {
    disk.rename(aside, ready);
    disk.flushFolder(live.getParent());
    disk.flushFolder(aside.getParent());
    try {
      return hasSecondName(live, aside)
          ? renameOver(ready, live, aside)
          : copyAndRename(ready, live, aside);
    } catch (IOException | RuntimeException failed) {
      publisher.discard(ready, failed);
      throw failed;
    }
  }

  private boolean hasSecondName(Path live, Path aside) throws IOException {
    try {
      publisher.link(live, aside);
      return true;
    } catch (NoSuchFileException absent) {
      throw absent;
    } catch (FileSystemException | UnsupportedOperationException noHardLinks) {
      return false;
    }
  }

  private ContentId renameOver(Path ready, Path live, Path aside) throws IOException {
    disk.rename(ready, live);
    disk.flushFolder(live.getParent());
    return publisher.identify(aside);
  }

  private ContentId copyAndRename(Path ready, Path live, Path aside) throws IOException {
    FileFacts before = disk.facts(live).orElseThrow(() -> new NoSuchFileException(live.toString()));
    ContentId old = publisher.copyLike(live, aside, live, PublishCheck.NONE);
    try (SeekableByteChannel was = disk.read(live)) {
      if (disk.facts(live).filter(before::sameAs).isEmpty()) {
        publisher.takeAway(aside, live);
        throw new FileSystemException(
            live.toString(), null, "it was saved while it was copied aside. Nothing was changed");
      }
      renameOpen(ready, live, was);
      disk.flushFolder(live.getParent());
      return was.isOpen() && !SameBytes.in(disk, aside, was) ? savedLate(aside, was) : old;
    }
  }

  /** Some folders refuse to replace a file that anybody reads, ourselves included. */
  private void renameOpen(Path ready, Path live, SeekableByteChannel was) throws IOException {
    try {
      disk.rename(ready, live);
    } catch (FileSystemException refused) {
      was.close();
      disk.rename(ready, live);
    }
  }

  /** A save between the last look and the rename: its bytes are read while they can be. */
  private ContentId savedLate(Path aside, SeekableByteChannel was) throws IOException {
    Path saved = aside.resolveSibling(aside.getFileName() + "-saved-late");
    return publisher.publish(saved, sink -> Copying.copy(was.position(0), sink), PublishCheck.NONE);
  }
}
