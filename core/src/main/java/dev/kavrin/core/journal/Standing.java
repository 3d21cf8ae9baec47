package dev.kavrin.core.journal;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.History.Binned;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/** The backups of one folder by their paths: those that stand and those in the bin. */
final class Standing {
  private final Map<String, BackupRecord> standing = new LinkedHashMap<>();
  private final Map<UUID, Map<String, BackupRecord>> byDocument = new HashMap<>();
  private final Map<String, Binned> binned = new LinkedHashMap<>();
  private final Map<String, Instant> lastRead = new HashMap<>();
  private final Set<String> faulty = new HashSet<>();

  /** What compacted backups take, by their paths, in the bin too. */
  private final Map<String, Long> stored = new HashMap<>();

  void put(BackupRecord backup, Instant at) {
    set(backup);
    lastRead.put(backup.path(), at);
    faulty.remove(backup.path());
  }

  private void set(BackupRecord backup) {
    standing.put(backup.path(), backup);
    byDocument
        .computeIfAbsent(backup.document(), k -> new LinkedHashMap<>())
        .put(backup.path(), backup);
  }

  void read(String path, Instant at) {
    lastRead.put(path, at);
    faulty.remove(path);
  }

  void judged(String path, Verdict verdict, String why, Instant at) {
    BackupRecord known = standing.get(path);
    if (known != null) {
      set(known.found(verdict, why));
      if (verdict.trustworthy()) {
        faulty.remove(path);
      } else {
        faulty.add(path);
      }
    }
    lastRead.put(path, at);
  }

  void drop(String path, String bin, boolean byHand, Instant at) {
    BackupRecord gone = standing.remove(path);
    if (gone != null) {
      byDocument.get(gone.document()).remove(path);
      binned.put(bin, new Binned(gone, bin, at, byHand, false));
      rename(path, bin);
    }
  }

  private void rename(String from, String to) {
    Long bytes = stored.remove(from);
    if (bytes != null) {
      stored.put(to, bytes);
    }
  }

  void compact(Operation.Compact done, Instant at) {
    BackupRecord backup = standing.get(done.path());
    if (backup != null) {
      stored.put(done.path(), done.stored());
      binned.put(done.bin(), new Binned(backup, done.bin(), at, false, true));
    }
  }

  @Nullable
  Long stored(String path) {
    return stored.get(path);
  }

  void takeBack(String bin, String path, Instant at) {
    Binned back = binned.remove(bin);
    if (back != null) {
      rename(bin, path);
      put(back.capture().at(path), at);
    }
  }

  void purge(String bin) {
    binned.remove(bin);
    stored.remove(bin);
  }

  boolean isFaulty(String path) {
    return faulty.contains(path);
  }

  Optional<BackupRecord> longestUnread(Instant before) {
    return standing.values().stream()
        .filter(c -> lastRead(c).isBefore(before))
        .min(Comparator.comparing(this::lastRead));
  }

  private Instant lastRead(BackupRecord backup) {
    return lastRead.getOrDefault(backup.path(), Instant.EPOCH);
  }

  List<BackupRecord> of(UUID document) {
    return byDocument.getOrDefault(document, Map.of()).values().stream()
        .sorted(Comparator.comparingLong(BackupRecord::sequence))
        .toList();
  }

  List<BackupRecord> all() {
    return List.copyOf(standing.values());
  }

  List<Binned> bin() {
    return List.copyOf(binned.values());
  }
}
