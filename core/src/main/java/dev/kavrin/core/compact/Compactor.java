package dev.kavrin.core.compact;

import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SameBytes;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.Reach;
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
import java.time.InstantSource;
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
  private final CompactedDisk disk;
  private final Publisher publisher;
  private final InstantSource clock;
  private final Scrub scrub;

  /**
   * @param publisher over that disk
   */
  public Compactor(CompactedDisk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.clock = clock;
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
    UnpackScript.layDown(disk, publisher, folder.root());
    Map<BackupRecord, Draft> drafts = pack(folder, document, backups);
    Outcome outcome = Outcome.NONE;
    for (BackupRecord backup : backups) {
      Draft draft = drafts.get(backup);
      if (draft == null) {
        continue;
      }
      if (!draft.content().equals(backup.content())) {
        scrub.isWhole(folder, backup, "Read to compact it: it is not what was written.");
        continue;
      }
      Optional<Long> stored = replace(folder, backup, draft);
      outcome = stored.isPresent() ? outcome.and(backup, stored.get()) : outcome;
    }
    return outcome;
  }

  private Map<BackupRecord, Draft> pack(
      BackupFolder folder, UUID document, List<BackupRecord> backups) throws IOException {
    Packs packs = new Packs(disk, folder);
    long longest = backups.stream().mapToLong(b -> b.content().length()).max().orElse(0);
    KnownChunks known = KnownChunks.of(disk, packs, document, longest);
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

  /** Empty if the backup is gone or is compacted already. */
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
    }
  }

  /** Bytes it newly needs; empty if it went meanwhile. */
  private Optional<Long> replace(BackupFolder folder, BackupRecord backup, Draft draft)
      throws IOException {
    folder.moving().lock();
    try {
      Path file = folder.owned(backup.path());
      boolean stands = folder.history().captures(backup.document()).contains(backup);
      if (!stands || folder.dropsPaused().get()) {
        return Optional.empty();
      }
      byte[] recipe = draft.recipe().written().getBytes(StandardCharsets.UTF_8);
      Path bin = folder.bin().resolve(FileName.prefixed(UUID.randomUUID() + ".", file));
      long stored = draft.added() + recipe.length;
      replace(
          folder,
          Operation.of(new Operation.Compact(backup.path(), folder.relative(bin), stored)),
          recipe,
          file,
          bin);
      return Optional.of(stored);
    } finally {
      folder.moving().unlock();
    }
  }

  private void replace(BackupFolder folder, Operation operation, byte[] recipe, Path file, Path bin)
      throws IOException {
    folder.begin(operation, clock.instant());
    try {
      publisher.publish(
          CompactedDisk.recipeOf(file),
          sink -> sink.write(recipe, 0, recipe.length),
          (stage, content) -> requireSame(stage, file));
      publisher.move(file, bin);
      folder.done(operation, clock.instant());
    } catch (IOException | RuntimeException failed) {
      new JournalRecovery(disk, publisher, folder, Reach.EVERYWHERE, clock)
          .finishOrTakeBack(operation, failed);
      throw failed;
    }
  }

  private void requireSame(Path recipe, Path file) throws IOException {
    try (SeekableByteChannel unpacked = disk.unpacked(recipe)) {
      if (!SameBytes.in(disk, file, unpacked)) {
        throw new DamagedPackException(
            file + " does not unpack to the same bytes. It stays as it is");
      }
    }
  }

  /** True if a backup's recipe can have its name there. */
  static boolean fits(BackupRecord backup) {
    String name = Path.of(backup.path()).getFileName() + Recipe.ENDING;
    return name.getBytes(StandardCharsets.UTF_8).length <= FileName.LONGEST;
  }
}
