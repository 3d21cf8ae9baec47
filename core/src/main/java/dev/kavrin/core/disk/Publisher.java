package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentId;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * The only way Kavrin writes, moves or deletes a file. At every instant each target is the old or
 * the new file, whole. Safe for several threads; two calls for one target are ordered by the
 * caller.
 */
public final class Publisher {
  /** Folders whose folders may go as a whole. */
  private static final String SCRATCH = "scratch";

  private final Disk disk;
  private final String node;

  /**
   * @param node short id of this installation, part of every stage name
   */
  public Publisher(Disk disk, String node) {
    this.disk = disk;
    this.node = node;
  }

  /** Fills a stage. */
  @FunctionalInterface
  public interface Filling {
    void into(Sink sink) throws IOException;
  }

  /** A finished stage, looked at before it gets its name; throwing leaves nothing behind. */
  @FunctionalInterface
  public interface Gate {
    void pass(Path stage, ContentId content) throws IOException;
  }

  /** A gate that lets everything through. */
  public static final Gate OPEN = (stage, content) -> {};

  /**
   * Publishes under a new name: stage in the target folder, flush, read back, pass the gate, link.
   *
   * @throws FileAlreadyExistsException the name is taken; nothing was touched
   * @throws VerifyException what is on the device is not what was written; nothing was published
   */
  public ContentId publish(Path target, Filling filling, Gate gate) throws IOException {
    Outcome outcome = publishAll(List.of(new Target(target, gate)), filling).get(0);
    if (outcome.failure() instanceof IOException failed) {
      throw failed;
    }
    if (outcome.failure() instanceof RuntimeException failed) {
      throw failed;
    }
    return outcome.content();
  }

  /** A name to publish under, and the last look before it is given. */
  public record Target(Path path, Gate gate) {}

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
    List<Stage> stages = new ArrayList<>();
    for (Target target : targets) {
      stages.add(new Stage(target, StageName.in(target.path().getParent(), node), this::newFile));
    }
    try (Fork fork = new Fork(stages)) {
      fill(stages, fork, filling);
      fork.flush();
    } catch (IOException | RuntimeException failed) {
      stages.forEach(stage -> discard(stage.file(), failed));
      throw failed;
    }
    return stages.stream().map(this::finish).toList();
  }

  private static void fill(List<Stage> stages, Fork fork, Filling filling) throws IOException {
    if (stages.stream().anyMatch(stage -> stage.failure() == null)) {
      try {
        filling.into(fork);
      } catch (Fork.NobodyTakesIt eachKeepsItsReason) {
        return;
      }
    }
  }

  private Outcome finish(Stage stage) {
    stage.attempt(
        sink -> {
          stage.target().gate().pass(stage.file(), sink.content());
          giveName(stage.file(), stage.target().path());
          disk.unlink(stage.file());
          disk.flushFolder(stage.file().getParent());
        });
    if (stage.failure() == null) {
      return new Outcome(stage.content(), null, stage.writing());
    }
    discard(stage.file(), stage.failure());
    return new Outcome(null, stage.failure(), stage.writing());
  }

  /** Copies a file's bytes under a new name, keeping its time of last write. */
  public ContentId copy(Path source, Path target) throws IOException {
    return copy(source, target, OPEN);
  }

  /**
   * The same with the permissions of {@code like}.
   *
   * @param gate last look at what was read, before it gets its name
   */
  public ContentId copyLike(Path source, Path target, Path like, Gate gate) throws IOException {
    return copy(
        source,
        target,
        (stage, content) -> {
          gate.pass(stage, content);
          disk.adoptPermissions(like, stage);
        });
  }

  /** The same to be looked at only: nobody may write it. */
  public ContentId copyToRead(Path source, Path target) throws IOException {
    return copy(source, target, (stage, content) -> disk.seal(stage));
  }

  private ContentId copy(Path source, Path target, Gate last) throws IOException {
    long modified =
        disk.facts(source)
            .orElseThrow(() -> new java.nio.file.NoSuchFileException(source.toString()))
            .modifiedNanos();
    return publish(
        target,
        sink -> Copying.copy(disk, source, sink),
        (stage, content) -> {
          disk.touch(stage, modified);
          last.pass(stage, content);
        });
  }

  /**
   * Lays a copy of {@code source} ready under the name that what it will replace gets.
   *
   * @param gate last look at what was read
   * @throws FileAlreadyExistsException that name is taken; nothing was touched
   */
  public void layReady(Path source, Path aside, Gate gate) throws IOException {
    disk.makeFolders(aside.getParent());
    copy(source, aside, gate);
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
  public ContentId replace(Path live, Filling filling, Path aside, WithoutExchange otherwise)
      throws IOException {
    disk.makeFolders(aside.getParent());
    publish(aside, filling, OPEN);
    return exchange(live, aside, otherwise);
  }

  /**
   * Puts what was laid ready in place of {@code live} by swapping the two names in one step: from
   * then on the swapped-out file stands, whole, at {@code staged}.
   *
   * @return what was swapped out
   */
  public ContentId exchange(Path live, Path staged, WithoutExchange otherwise) throws IOException {
    disk.adoptPermissions(live, staged);
    return swap(live, staged) ? identify(staged) : replaceWithoutExchange(live, staged, otherwise);
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

  /** What to do where two names cannot be swapped in one step. */
  public enum WithoutExchange {
    REFUSE,
    COPY_THEN_RENAME
  }

  private ContentId replaceWithoutExchange(Path live, Path staged, WithoutExchange otherwise)
      throws IOException {
    if (otherwise == WithoutExchange.REFUSE) {
      disk.unlink(staged);
      throw new FileSystemException(
          live.toString(),
          null,
          "this drive cannot swap two names in one step; close the program first. Nothing was"
              + " changed");
    }
    Path ready = StageName.in(live.getParent(), node);
    copy(staged, ready);
    disk.adoptPermissions(live, ready);
    disk.unlink(staged);
    ContentId old = copy(live, staged);
    disk.rename(ready, live);
    disk.flushFolder(live.getParent());
    return old;
  }

  /** Gives a file of ours another name on the same device; fails if that name is taken. */
  public void move(Path from, Path to) throws IOException {
    disk.makeFolders(to.getParent());
    giveName(from, to);
    disk.flushFolder(to.getParent());
    disk.unlink(from);
    disk.flushFolder(from.getParent());
  }

  /** A second name for a file that may vanish; costs no room and almost no time. */
  public void hold(Path file, Path held) throws IOException {
    disk.makeFolders(held.getParent());
    disk.link(file, held);
    disk.flushFolder(held.getParent());
  }

  /** Deletes one of Kavrin's own files for good. */
  public void purge(Path file) throws IOException {
    disk.unlink(file);
    disk.flushFolder(file.getParent());
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
   * Clears away a folder of Kavrin's own with all that is in it, such as that of a rehearsal. Links
   * in it go, what they lead to stays.
   *
   * @throws IllegalArgumentException it does not lie in a folder for such things
   */
  public void clearScratch(Path folder) throws IOException {
    if (!folder.getParent().endsWith(SCRATCH)) {
      throw new IllegalArgumentException(folder + " is none of Kavrin's scratch folders");
    }
    clearAll(folder);
  }

  private void clearAll(Path folder) throws IOException {
    for (Path path : disk.list(folder)) {
      if (disk.facts(path).filter(FileFacts::isFolder).isPresent()) {
        clearAll(path);
      } else {
        disk.unlink(path);
      }
    }
    disk.removeFolder(folder);
  }

  /**
   * Takes away what was laid out in a folder, as far as it still holds what was laid there, and the
   * folders that are empty then. What somebody saved there stays.
   *
   * @param laid what each file held, by its path below the folder
   */
  public void clearLaid(Path folder, Map<String, ContentId> laid) throws IOException {
    for (Map.Entry<String, ContentId> one : laid.entrySet()) {
      Path file = folder.resolve(one.getKey()).normalize();
      boolean ours =
          file.startsWith(folder)
              && disk.facts(file).filter(FileFacts::isFile).isPresent()
              && identify(file).equals(one.getValue());
      if (ours) {
        disk.unlink(file);
      }
    }
    removeEmpty(folder);
  }

  private boolean removeEmpty(Path folder) throws IOException {
    boolean empty = true;
    for (Path path : disk.list(folder)) {
      boolean isFolder = disk.facts(path).filter(FileFacts::isFolder).isPresent();
      empty &= isFolder && removeEmpty(path);
    }
    if (empty) {
      disk.removeFolder(folder);
    }
    return empty;
  }

  /** Clears away what a killed run of this node left unfinished in a folder. */
  public int clearStages(Path folder) throws IOException {
    int cleared = 0;
    for (Path path : disk.list(folder)) {
      if (StageName.ownedBy(path, node)) {
        disk.unlink(path);
        cleared++;
      }
    }
    return cleared;
  }

  /** Reads a file in full for its identity. */
  public ContentId identify(Path file) throws IOException {
    return Copying.identify(disk, file);
  }

  private CheckedSink newFile(Path file) throws IOException {
    return new CheckedSink(disk, file, disk.create(file));
  }

  private ContentId write(Path file, Filling filling) throws IOException {
    try (CheckedSink sink = newFile(file)) {
      filling.into(sink);
      sink.flush();
      return sink.content();
    }
  }

  private void giveName(Path stage, Path target) throws IOException {
    try {
      disk.link(stage, target);
    } catch (FileAlreadyExistsException taken) {
      throw taken;
    } catch (FileSystemException | UnsupportedOperationException noHardLinks) {
      copyExclusively(stage, target);
    }
  }

  private void copyExclusively(Path stage, Path target) throws IOException {
    try {
      write(target, sink -> Copying.copy(disk, stage, sink));
    } catch (VerifyException wrong) {
      disk.unlink(target);
      throw wrong;
    }
  }

  private void discard(Path stage, Exception failed) {
    try {
      if (disk.facts(stage).isPresent()) {
        disk.unlink(stage);
      }
    } catch (IOException second) {
      failed.addSuppressed(second);
    }
  }
}
