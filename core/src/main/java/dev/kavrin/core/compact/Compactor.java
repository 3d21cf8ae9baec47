package dev.kavrin.core.compact;

import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SameBytes;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.OperationRun;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.pack.DamagedPackException;
import dev.kavrin.core.pack.PackWriter;
import dev.kavrin.core.pack.Recipe;
import dev.kavrin.core.retention.Scrub;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;

/**
 * Compacts backups: what no pack of their document has goes into a new one, then each gets a recipe
 * that was unpacked and compared with it byte by byte, then its plain bytes go to the bin. A stop
 * between any two leaves each backup whole under its name.
 */
public final class Compactor {
  private static final String NOT_WHAT_WAS_WRITTEN =
      "Read to compact it: it is not what was written.";

  /** Read to tell beforehand. */
  private static final int MEASURED = 12;

  private static final long MEASURED_BYTES = 500_000_000;

  /** Compacting reads twice and unpacks once. */
  private static final double PASSES = 2;

  private static final String NOWHERE_NAME = "nowhere";
  private static final Sink NOWHERE =
      new Sink() {
        @Override
        public void write(byte[] bytes, int offset, int count) {
          // Only counted.
        }

        @Override
        public void flush() {
          // Nothing is kept.
        }

        @Override
        public void close() {
          // Nothing is open.
        }
      };

  private final CompactedDisk disk;
  private final Publisher publisher;
  private final OperationRun operations;
  private final Scrub scrub;

  /**
   * @param publisher over that disk
   */
  public Compactor(CompactedDisk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.operations = new OperationRun(disk, publisher, clock);
    this.scrub = new Scrub(disk, publisher, clock);
  }

  /**
   * What came of it.
   *
   * @param before bytes of those that were compacted
   * @param after bytes they newly need
   */
  public record Outcome(int versions, long before, long after) {
    static final Outcome NONE = new Outcome(0, 0, 0);

    Outcome and(Outcome other) {
      return new Outcome(versions + other.versions, before + other.before, after + other.after);
    }

    Outcome and(BackupRecord backup, long stored) {
      return new Outcome(versions + 1, before + backup.content().length(), after + stored);
    }
  }

  /**
   * Compacts backups of one document into one new pack. One that is not what was written any more
   * is noted as damaged and stays as it is.
   *
   * @param backups that stand as plain files
   */
  public Outcome compact(BackupFolder folder, UUID document, List<BackupRecord> backups)
      throws IOException {
    if (backups.isEmpty()) {
      return Outcome.NONE;
    }
    folder.packing().lock();
    try {
      return packed(folder, document, backups);
    } finally {
      folder.packing().unlock();
    }
  }

  private Outcome packed(BackupFolder folder, UUID document, List<BackupRecord> backups)
      throws IOException {
    UnpackScript.layDown(disk, publisher, folder.root());
    Map<BackupRecord, Draft> drafts = pack(folder, document, backups);
    Outcome outcome = Outcome.NONE;
    for (BackupRecord backup : backups) {
      Draft draft = drafts.get(backup);
      if (draft == null) {
        continue;
      }
      if (!draft.content().equals(backup.content())) {
        scrub.isWhole(folder, backup, NOT_WHAT_WAS_WRITTEN);
        continue;
      }
      try {
        Optional<Long> stored = replace(folder, backup, draft);
        outcome = stored.isPresent() ? outcome.and(backup, stored.get()) : outcome;
      } catch (DamagedPackException told) {
        // It stays a plain file; re-reading tells which versions the pack costs.
      }
    }
    return outcome;
  }

  /**
   * Reads the first of some backups as if they were to be compacted; nothing is written.
   *
   * @param backups at least one
   */
  OlderVersions.Estimate estimate(BackupFolder folder, UUID document, List<BackupRecord> backups)
      throws IOException {
    KnownChunks known = known(folder, document, backups);
    long began = System.nanoTime();
    long read = 0;
    List<Draft> drafts = new ArrayList<>();
    try (PackWriter writer = new PackWriter(NOWHERE, known.scale())) {
      for (BackupRecord backup : backups) {
        if (drafts.size() >= MEASURED || read > MEASURED_BYTES) {
          break;
        }
        Optional<Draft> draft = draft(folder, backup, known, writer, NOWHERE_NAME);
        draft.ifPresent(drafts::add);
        read += draft.map(d -> d.content().length()).orElse(0L);
      }
    }
    long took = System.nanoTime() - began;
    long before = backups.stream().mapToLong(b -> b.content().length()).sum();
    long added = drafts.stream().mapToLong(Draft::added).sum();
    long later = drafts.stream().skip(1).mapToLong(Draft::added).sum();
    int rest = backups.size() - drafts.size();
    return new OlderVersions.Estimate(
        backups.size(),
        drafts.size(),
        before,
        added + later * rest / Math.max(1, drafts.size() - 1),
        Duration.ofNanos((long) (took * PASSES * before / Math.max(1, read))));
  }

  private KnownChunks known(BackupFolder folder, UUID document, List<BackupRecord> backups)
      throws IOException {
    long longest = backups.stream().mapToLong(b -> b.content().length()).max().orElse(0);
    return KnownChunks.of(disk, new Packs(disk, folder), document, longest);
  }

  private Map<BackupRecord, Draft> pack(
      BackupFolder folder, UUID document, List<BackupRecord> backups) throws IOException {
    Packs packs = new Packs(disk, folder);
    KnownChunks known = known(folder, document, backups);
    Path pack = packs.fresh(document);
    Map<BackupRecord, Draft> drafts = new LinkedHashMap<>();
    disk.makeFolders(pack.getParent());
    publisher.publish(
        pack,
        sink -> {
          try (PackWriter writer = new PackWriter(sink, known.scale())) {
            for (BackupRecord backup : backups) {
              draft(folder, backup, known, writer, packs.name(pack))
                  .ifPresent(draft -> drafts.put(backup, draft));
            }
            writer.end();
          }
        },
        PublishCheck.NONE);
    return drafts;
  }

  /** Empty if the backup is gone, is compacted already or cannot be read. */
  private Optional<Draft> draft(
      BackupFolder folder, BackupRecord backup, KnownChunks known, PackWriter writer, String pack)
      throws IOException {
    Path file = folder.absolute(backup.path());
    Optional<FileFacts> facts = disk.facts(file);
    if (facts.filter(f -> f.isFile() && !CompactedDisk.isCompacted(f)).isEmpty()) {
      return Optional.empty();
    }
    try (SeekableByteChannel open = disk.read(file);
        InputStream in = new BufferedInputStream(Channels.newInputStream(open), 1 << 17)) {
      return Optional.of(Draft.read(in, facts.get().modifiedNanos(), known, writer, pack));
    } catch (Draft.UnreadableException failed) {
      scrub.isWhole(folder, backup, NOT_WHAT_WAS_WRITTEN);
      return Optional.empty();
    }
  }

  /** Bytes it newly needs; empty if it went meanwhile. */
  private Optional<Long> replace(BackupFolder folder, BackupRecord backup, Draft draft)
      throws IOException {
    Path file = folder.owned(backup.path());
    requireSame(folder, draft.recipe(), file);
    byte[] recipe = draft.recipe().written().getBytes(StandardCharsets.UTF_8);
    Path bin = folder.bin().resolve(FileName.prefixed(UUID.randomUUID() + ".", file));
    long stored = draft.added() + recipe.length;
    Operation operation =
        Operation.of(new Operation.Compact(backup.path(), folder.relative(bin), stored));
    folder.moving().lock();
    try {
      boolean stands = folder.history().captures(backup.document()).contains(backup);
      if (!stands || folder.dropsPaused().get()) {
        return Optional.empty();
      }
      operations.of(
          folder,
          operation,
          () -> {
            publisher.publish(
                CompactedDisk.recipeOf(file),
                sink -> sink.write(recipe, 0, recipe.length),
                PublishCheck.NONE);
            publisher.move(file, bin);
          });
      return Optional.of(stored);
    } finally {
      folder.moving().unlock();
    }
  }

  /** Byte by byte, before its recipe stands anywhere; nobody waits for it. */
  private void requireSame(BackupFolder folder, Recipe recipe, Path file) throws IOException {
    try (SeekableByteChannel unpacked = disk.unpacked(folder.root(), recipe)) {
      if (!SameBytes.in(disk, file, unpacked)) {
        throw new DamagedPackException(
            file + " does not unpack to the same bytes. It stays as it is");
      }
    }
  }

  /** True if a backup's recipe can have its name there, and in the bin. */
  static boolean fits(BackupRecord backup) {
    String name = new UUID(0, 0) + "." + Path.of(backup.path()).getFileName() + Recipe.ENDING;
    return name.getBytes(StandardCharsets.UTF_8).length <= FileName.LONGEST;
  }
}
