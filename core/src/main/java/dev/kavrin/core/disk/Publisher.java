package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentId;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The only way Kavrin writes, moves or deletes a file. At every instant each target is the old or
 * the new file, whole. Safe for several threads; two calls for one target are ordered by the
 * caller.
 */
public final class Publisher {
  private final Disk disk;
  private final String node;
  private final FreeName names;
  private final Retaining retaining;
  private final Replacing replacing;
  private final Clearing clearing;
  private final Staging staging;
  private final Map<String, Abilities> abilities = new HashMap<>();

  /**
   * @param node short id of this installation, part of every stage name
   */
  public Publisher(Disk disk, String node) {
    this.disk = disk;
    this.node = node;
    Unfinished unfinished = new Unfinished();
    this.names = new FreeName(disk, node, unfinished);
    this.retaining = new Retaining(disk);
    this.replacing = new Replacing(disk, this, node, unfinished);
    this.clearing = new Clearing(disk, names, node, unfinished);
    this.staging = new Staging(disk, names, node, unfinished);
  }

  /**
   * What a folder can do; measured once for each device, by doing it.
   *
   * @throws IOException nothing can be written there
   */
  public synchronized Abilities abilities(Path folder) throws IOException {
    String device = disk.device(folder);
    Abilities known = abilities.get(device);
    if (known == null) {
      known = new AbilityProbe(disk, folder, node).measure();
      abilities.put(device, known);
    }
    return known;
  }

  /** Fills a stage. */
  @FunctionalInterface
  public interface Filling {
    void into(Sink sink) throws IOException;
  }

  /**
   * Publishes under a new name: stage in the target folder, flush, read back, pass the check, link.
   *
   * @throws FileAlreadyExistsException the name is taken; nothing was touched
   * @throws VerifyException what is on the device is not what was written; nothing was published
   */
  public ContentId publish(Path target, Filling filling, PublishCheck check) throws IOException {
    Outcome outcome = publishAll(List.of(new Target(target, check)), filling).get(0);
    if (outcome.failure() instanceof IOException failed) {
      throw failed;
    }
    if (outcome.failure() instanceof RuntimeException failed) {
      throw failed;
    }
    return outcome.content();
  }

  /** A name to publish under, and the last look before it is given. */
  public record Target(Path path, PublishCheck check) {}

  /**
   * What came of one target.
   *
   * @param content what stands there, null if it failed
   * @param failure why nothing was published there, else null
   * @param writing how long its device took to write and flush
   */
  public record Outcome(
      @Nullable ContentId content, @Nullable Exception failure, Duration writing) {}

  /**
   * Publishes the same bytes under several new names in one pass, each as {@link #publish} does.
   * One that fails does not stop the others.
   *
   * @return what came of each, in the order of the targets
   * @throws IOException the filling failed; nothing was published
   */
  public List<Outcome> publishAll(List<Target> targets, Filling filling) throws IOException {
    return staging.publishAll(targets, filling);
  }

  /** Copies a file's bytes under a new name, keeping its time of last write. */
  public ContentId copy(Path source, Path target) throws IOException {
    return copy(source, target, PublishCheck.NONE);
  }

  /**
   * The same with the permissions of {@code like}.
   *
   * @param check last look at what was read, before it gets its name
   */
  public ContentId copyLike(Path source, Path target, Path like, PublishCheck check)
      throws IOException {
    return copy(
        source,
        target,
        (stage, content) -> {
          check.pass(stage, content);
          disk.adoptOwnership(like, stage);
        });
  }

  /** The same to be looked at only: nobody may write it. */
  public ContentId copyToRead(Path source, Path target) throws IOException {
    return copy(source, target, (stage, content) -> disk.seal(stage));
  }

  private ContentId copy(Path source, Path target, PublishCheck last) throws IOException {
    long modified = modified(source);
    return publish(
        target,
        sink -> Copying.copy(disk, source, sink),
        (stage, content) -> {
          disk.touch(stage, modified);
          last.pass(stage, content);
        });
  }

  private long modified(Path file) throws IOException {
    return disk.facts(file)
        .orElseThrow(() -> new NoSuchFileException(file.toString()))
        .modifiedNanos();
  }

  /**
   * Lays a copy of {@code source} ready under the name that what it will replace gets.
   *
   * @param check last look at what was read
   * @throws FileAlreadyExistsException that name is taken; nothing was touched
   */
  public void layReady(Path source, Path aside, PublishCheck check) throws IOException {
    disk.makeFolders(aside.getParent());
    copy(source, aside, check);
  }

  /** Takes away what was laid ready, if it holds what {@code source} holds. */
  public void takeAway(Path aside, Path source) throws IOException {
    if (disk.facts(aside).isPresent() && SameBytes.in(disk, aside, source)) {
      purge(aside);
    }
  }

  /**
   * Replaces {@code live} by bytes of Kavrin's own making. They are staged under the aside name,
   * verified, then put in place.
   *
   * @return what was swapped out
   * @throws FileAlreadyExistsException the aside name is taken; nothing was touched
   */
  public ContentId replace(Path live, Filling filling, Path aside) throws IOException {
    disk.makeFolders(aside.getParent());
    publish(aside, filling, PublishCheck.NONE);
    return replace(live, aside);
  }

  /**
   * Puts what was laid ready in place of {@code live}; from then on what was live stands, whole, at
   * {@code staged}.
   *
   * @return what was live
   * @throws FileSystemException it was saved meanwhile; nothing was changed
   */
  public ContentId replace(Path live, Path staged) throws IOException {
    return replacing.replace(live, staged);
  }

  /** Swaps two files in one step; false, and nothing touched, where that cannot be done. */
  public boolean swap(Path a, Path b) throws IOException {
    if (!disk.exchange(a, b)) {
      return false;
    }
    disk.flushFolder(a.getParent());
    disk.flushFolder(b.getParent());
    return true;
  }

  /** Gives a file of ours another name on the same device; fails if that name is taken. */
  public void move(Path from, Path to) throws IOException {
    disk.makeFolders(to.getParent());
    names.move(from, to);
  }

  /** How a file of somebody else's is kept from being lost. */
  public enum Retained {
    /** By its own bytes: nothing that is written to the original reaches them. */
    CLONED,
    /** By a second name: deleting and replacing no longer lose it, writing into it does. */
    NAMED
  }

  /**
   * Keeps a file that may vanish, without copying it: a clone where the folder can, else a second
   * name.
   *
   * @throws FileSystemException the folder can do neither
   */
  public Retained retain(Path file, Path kept) throws IOException {
    return retaining.retain(file, kept);
  }

  void link(Path file, Path second) throws IOException {
    disk.link(file, second);
    disk.flushFolder(second.getParent());
  }

  /** Deletes one of Kavrin's own files for good. */
  public void purge(Path file) throws IOException {
    disk.unlink(file);
    disk.flushFolder(file.getParent());
  }

  /** Gives up a file that was {@link #retain retained}, and its folder with the last one in it. */
  public void release(Path kept) throws IOException {
    retaining.release(kept);
  }

  /**
   * Takes away a file of a program's whose bytes stand at {@code copy}. It gets another name first
   * and is compared under that, so that what is written meanwhile is never what goes.
   *
   * @param held its name meanwhile, free, on the same device
   * @return false, and the file is back under its name, if it is not what the copy holds
   * @throws IOException it could not be compared; the file is back under its name
   */
  public boolean clear(Path file, Path held, Path copy) throws IOException {
    disk.makeFolders(held.getParent());
    disk.rename(file, held);
    disk.flushFolder(held.getParent());
    boolean same = false;
    try {
      same = !disk.mayBeWritten(held) && SameBytes.in(disk, held, copy);
    } finally {
      if (!same) {
        move(held, file);
      }
    }
    if (same) {
      purge(held);
    }
    return same;
  }

  /**
   * Clears away a folder of Kavrin's own with all that is in it, such as that of a recovery test.
   * Links in it go, what they lead to stays.
   *
   * @throws IllegalArgumentException it does not lie in a folder for such things
   */
  public void clearScratch(Path folder) throws IOException {
    clearing.scratch(folder);
  }

  /**
   * Takes away what was laid out in a folder, as far as it still holds what was laid there, and the
   * folders that are empty then. What somebody saved there stays.
   *
   * @param laid what each file held, by its path below the folder
   */
  public void clearLaid(Path folder, Map<String, ContentId> laid) throws IOException {
    clearing.laid(folder, laid);
  }

  /** Clears away what a killed run of this node left unfinished in a folder. */
  public int clearStages(Path folder) throws IOException {
    return clearing.stages(folder);
  }

  /** Reads a file in full for its identity. */
  public ContentId identify(Path file) throws IOException {
    return Copying.identify(disk, file);
  }

  void discard(Path stage, Exception failed) {
    staging.discard(stage, failed);
  }
}
