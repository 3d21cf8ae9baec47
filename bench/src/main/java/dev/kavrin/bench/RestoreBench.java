package dev.kavrin.bench;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneOffset;
import java.util.UUID;

/**
 * Replacing a file of 1 GB, from the word to the moment the names are swapped, against {@code cp}
 * and a flush of the file it made.
 */
final class RestoreBench {
  private static final long GB = 1_000_000_000;

  private RestoreBench() {}

  /** Notes when two names were swapped. */
  private static final class Swapped extends ForwardingDisk {
    private long at;

    Swapped(Disk disk) {
      super(disk);
    }

    @Override
    public boolean exchange(Path a, Path b) throws IOException {
      boolean done = super.exchange(a, b);
      at = System.nanoTime();
      return done;
    }
  }

  static void run(Path folder) throws Exception {
    Path live = Files.createDirectories(folder.resolve("work")).resolve("heat.dat");
    Path copy = folder.resolve("heat-copy.dat");
    Path other = folder.resolve("heat-other.dat");
    Samples.fill(live, GB, 1);
    Samples.fill(copy, GB, 2);
    Swapped disk = new Swapped(Disks.answering());
    Publisher publisher = new Publisher(disk, "bench");
    InstantSource clock = InstantSource.system();
    Path keep = Files.createDirectories(folder.resolve("keep"));
    UUID place = new UUID(1, 1);
    new FolderMarker(place, "RECOVERY", "bench", clock.instant()).write(disk, publisher, keep);
    BackupFolder recovery = BackupFolder.open(disk, keep, place, "bench");
    Restorer restorer = new Restorer(disk, publisher, new HealthCheck(disk), recovery, clock);
    Contest.run(
        "restore: 1 GB replaced, up to the exchange, in the page cache",
        7,
        1.3,
        turn -> {
          RestorePlan plan =
              restorer
                  .planner()
                  .plan(RestoreMode.REPLACE, copy, live, Instant.now(), ZoneOffset.UTC);
          long start = System.nanoTime();
          Receipt done =
              restorer.restore(new Restorer.Order(plan, new UUID(1, 2), CopyKind.CAPTURE), "bench");
          double seconds = (disk.at - start) / 1e9;
          restorer.undo(done, "bench");
          Samples.clear(Path.of(done.aside()));
          return seconds;
        },
        "cp",
        turn -> {
          double seconds =
              Contest.command("cp", "--reflink=never", copy.toString(), other.toString())
                  + Contest.command("sync", other.toString());
          Samples.clear(other);
          return seconds;
        });
  }
}
