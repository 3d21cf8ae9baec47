package dev.kavrin.core.journal;

import dev.kavrin.core.lane.Alone;
import dev.kavrin.core.lane.Lanes;
import dev.kavrin.core.replica.ReplicaSync;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.UUID;

/**
 * The recovery folders of one project. None of them needs to be there all the time: one that is
 * away or has failed is behind until {@link ReplicaSync} has brought it what it missed. Safe for
 * several threads.
 */
public final class BackupFolders {
  private final Map<UUID, BackupFolder> folders = new LinkedHashMap<>();

  /** What says little: the time of smaller files is that of their names. */
  private static final long TELLING = 1_000_000;

  private final Map<UUID, Double> bytesPerSecond = new LinkedHashMap<>();
  private final Map<UUID, String> behind = new LinkedHashMap<>();

  private final Alone documents = new Alone();

  public BackupFolders(Collection<BackupFolder> open) {
    open.forEach(f -> folders.put(f.uuid(), f));
  }

  /**
   * Makes or drops backups of a document while nobody else does, so that no two give one birth
   * number or judge what the other changes. Nobody has two documents at once.
   */
  public <T> T alone(UUID document, Alone.Doing<T> doing) throws IOException {
    return documents.with(document, doing);
  }

  /** The same for what comes to nothing. */
  public void alone(UUID document, Lanes.Work work) throws IOException {
    documents.run(document, work);
  }

  public static BackupFolders of(BackupFolder one) {
    return new BackupFolders(List.of(one));
  }

  /** Takes one more in, behind until it was caught up. */
  public synchronized void add(BackupFolder folder) {
    if (folders.putIfAbsent(folder.uuid(), folder) == null && folders.size() > 1) {
      behind.put(folder.uuid(), "not caught up yet");
    }
  }

  public synchronized void remove(BackupFolder folder) {
    folders.remove(folder.uuid());
    behind.remove(folder.uuid());
  }

  public synchronized List<BackupFolder> all() {
    return List.copyOf(folders.values());
  }

  public synchronized Optional<BackupFolder> at(Path root) {
    return folders.values().stream().filter(f -> f.root().equals(root)).findFirst();
  }

  /**
   * Folders that hold all there is; copies go to these. Never empty unless there is none at all.
   */
  public synchronized List<BackupFolder> current() {
    List<BackupFolder> current =
        folders.values().stream().filter(f -> !behind.containsKey(f.uuid())).toList();
    return current.isEmpty() ? folders.values().stream().limit(1).toList() : current;
  }

  /** The folder to ask: the first that holds all there is. */
  public BackupFolder first() {
    return current().get(0);
  }

  public History history() {
    return first().history();
  }

  /** Why a folder is behind; empty if it is not. */
  public synchronized Optional<String> behind(BackupFolder folder) {
    return Optional.ofNullable(behind.get(folder.uuid()));
  }

  /** Notes how long a folder's device took to write a copy. */
  public synchronized void measured(BackupFolder folder, long bytes, Duration writing) {
    if (bytes >= TELLING && !writing.isZero()) {
      double rate = bytes * 1e9 / writing.toNanos();
      bytesPerSecond.merge(folder.uuid(), rate, (old, now) -> 0.7 * old + 0.3 * now);
    }
  }

  /** How fast a folder's device took copies lately; empty before a telling one was made. */
  public synchronized OptionalLong rate(BackupFolder folder) {
    Double rate = bytesPerSecond.get(folder.uuid());
    return rate == null ? OptionalLong.empty() : OptionalLong.of(Math.round(rate));
  }

  /** From now on it has to be caught up. The last folder that holds all is never behind. */
  public void fellBehind(BackupFolder folder, String why) {
    standBack(folder, why);
  }

  /** Takes no copies from now on; false if no other folder holds all there is. */
  public synchronized boolean standBack(BackupFolder folder, String why) {
    boolean another =
        folders.values().stream().anyMatch(f -> f != folder && !behind.containsKey(f.uuid()));
    if (another) {
      behind.put(folder.uuid(), why);
    }
    return another;
  }

  public synchronized void caughtUp(BackupFolder folder) {
    behind.remove(folder.uuid());
  }

  /**
   * Writes a fact into every folder that holds all there is.
   *
   * @throws IOException no folder took it
   */
  public void record(JournalEntry fact) throws IOException {
    record(List.of(fact));
  }

  /** The same for several, flushed once in each. */
  public void record(List<? extends JournalEntry> facts) throws IOException {
    IOException failure = null;
    boolean taken = false;
    for (BackupFolder folder : current()) {
      try {
        folder.record(facts);
        taken = true;
      } catch (IOException failed) {
        failure = failed;
        fellBehind(folder, failed.getMessage());
      }
    }
    if (!taken) {
      throw failure == null ? new IOException("There is no backup folder") : failure;
    }
  }

  /** Puts those that are away behind; they are looked after when they return. */
  public void look() {
    for (BackupFolder folder : current()) {
      try {
        folder.requireHere();
      } catch (IOException away) {
        fellBehind(folder, away.getMessage());
      }
    }
  }

  /** Where the documents of a project stand, or stood. */
  public List<Path> livePaths(ProjectRecord project) {
    Path folder = Path.of(project.folder());
    return history().documents(project.id()).stream().map(d -> folder.resolve(d.path())).toList();
  }
}
