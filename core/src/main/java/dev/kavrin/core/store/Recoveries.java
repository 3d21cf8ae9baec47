package dev.kavrin.core.store;

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
 * away or has failed is behind until {@link CatchUp} has brought it what it missed. Safe for
 * several threads.
 */
public final class Recoveries {
  private final Map<UUID, RecoveryFolder> folders = new LinkedHashMap<>();

  /** What says little: the time of smaller files is that of their names. */
  private static final long TELLING = 1_000_000;

  private final Map<UUID, Double> bytesPerSecond = new LinkedHashMap<>();
  private final Map<UUID, String> behind = new LinkedHashMap<>();

  public Recoveries(Collection<RecoveryFolder> open) {
    open.forEach(f -> folders.put(f.uuid(), f));
  }

  public static Recoveries of(RecoveryFolder one) {
    return new Recoveries(List.of(one));
  }

  /** Takes one more in, behind until it was caught up. */
  public synchronized void add(RecoveryFolder folder) {
    if (folders.putIfAbsent(folder.uuid(), folder) == null && folders.size() > 1) {
      behind.put(folder.uuid(), "not caught up yet");
    }
  }

  public synchronized void remove(RecoveryFolder folder) {
    folders.remove(folder.uuid());
    behind.remove(folder.uuid());
  }

  public synchronized List<RecoveryFolder> all() {
    return List.copyOf(folders.values());
  }

  public synchronized Optional<RecoveryFolder> at(Path root) {
    return folders.values().stream().filter(f -> f.root().equals(root)).findFirst();
  }

  /**
   * Folders that hold all there is; copies go to these. Never empty unless there is none at all.
   */
  public synchronized List<RecoveryFolder> current() {
    List<RecoveryFolder> current =
        folders.values().stream().filter(f -> !behind.containsKey(f.uuid())).toList();
    return current.isEmpty() ? folders.values().stream().limit(1).toList() : current;
  }

  /** The folder to ask: the first that holds all there is. */
  public RecoveryFolder first() {
    return current().get(0);
  }

  public History history() {
    return first().history();
  }

  /** Why a folder is behind; empty if it is not. */
  public synchronized Optional<String> behind(RecoveryFolder folder) {
    return Optional.ofNullable(behind.get(folder.uuid()));
  }

  /** Notes how long a folder's device took to write a copy. */
  synchronized void measured(RecoveryFolder folder, long bytes, Duration writing) {
    if (bytes >= TELLING && !writing.isZero()) {
      double rate = bytes * 1e9 / writing.toNanos();
      bytesPerSecond.merge(folder.uuid(), rate, (old, now) -> 0.7 * old + 0.3 * now);
    }
  }

  /** How fast a folder's device took copies lately; empty before a telling one was made. */
  public synchronized OptionalLong rate(RecoveryFolder folder) {
    Double rate = bytesPerSecond.get(folder.uuid());
    return rate == null ? OptionalLong.empty() : OptionalLong.of(Math.round(rate));
  }

  /** From now on it has to be caught up. The last folder that holds all is never behind. */
  void fellBehind(RecoveryFolder folder, String why) {
    standBack(folder, why);
  }

  /** Takes no copies from now on; false if no other folder holds all there is. */
  public synchronized boolean standBack(RecoveryFolder folder, String why) {
    boolean another =
        folders.values().stream().anyMatch(f -> f != folder && !behind.containsKey(f.uuid()));
    if (another) {
      behind.put(folder.uuid(), why);
    }
    return another;
  }

  synchronized void caughtUp(RecoveryFolder folder) {
    behind.remove(folder.uuid());
  }

  /**
   * Writes a fact into every folder that holds all there is.
   *
   * @throws IOException no folder took it
   */
  public void record(JournalEntry fact) throws IOException {
    IOException failure = null;
    boolean taken = false;
    for (RecoveryFolder folder : current()) {
      try {
        folder.record(fact);
        taken = true;
      } catch (IOException failed) {
        failure = failed;
        fellBehind(folder, failed.getMessage());
      }
    }
    if (!taken) {
      throw failure == null ? new IOException("There is no recovery folder") : failure;
    }
  }

  /** Puts those that are away behind; they are looked after when they return. */
  public void look() {
    for (RecoveryFolder folder : current()) {
      try {
        folder.requireHere();
      } catch (IOException away) {
        fellBehind(folder, away.getMessage());
      }
    }
  }
}
