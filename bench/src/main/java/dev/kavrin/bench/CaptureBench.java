package dev.kavrin.bench;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.ProgramProfile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.stream.IntStream;

/**
 * One capture (read, identity, write, flush, read back, journal) against {@code cp} and a flush of
 * the file it made.
 */
final class CaptureBench {
  private static final long GB = 1_000_000_000;
  private static final long CACHE_LEFT = 2 * GB;

  private CaptureBench() {}

  static void run(Path folder) throws Exception {
    measure(folder, "capture: 1 GB, in the page cache", GB, 7, 1);
    measure(folder, "capture: 1 GB into two recovery folders in one pass", GB, 7, 2);
    try (Ballast ballast = new Ballast(CACHE_LEFT)) {
      String what =
          "capture: 4 GB, with %.1f GB left to the page cache"
              .formatted(Ballast.available() / (double) GB);
      measure(folder, what, 4 * GB, 7, 1);
    }
  }

  private static void measure(Path folder, String what, long size, int turns, int places)
      throws Exception {
    Path work = Files.createDirectories(folder.resolve("work"));
    Path source = work.resolve("heat.dat");
    Samples.fill(source, size, 20310303);
    Keeping keeping = new Keeping(folder.resolve("keep-" + size + "-" + places), places, work);
    List<Path> others =
        IntStream.range(0, places)
            .mapToObj(n -> folder.resolve("heat-copy-" + n + ".dat"))
            .toList();
    Contest.run(
        what,
        turns,
        places == 1 ? 1.3 : 1.2,
        turn -> keeping.capture(source),
        "cp",
        turn -> {
          double seconds = 0;
          for (Path other : others) {
            seconds +=
                Contest.command("cp", "--reflink=never", source.toString(), other.toString())
                    + Contest.command("sync", other.toString());
          }
          for (Path other : others) {
            Samples.clear(other);
          }
          return seconds;
        });
    Files.delete(source);
  }

  /** A recovery folder as the server has one. */
  private static final class Keeping {
    private final UUID document = new UUID(1, 2);
    private final List<BackupFolder> folders = new ArrayList<>();
    private final ProjectRecord project;
    private final BackupMaker maker;

    Keeping(Path keep, int places, Path work) throws IOException {
      Disk disk = Disks.answering();
      Publisher publisher = new Publisher(disk, "bench");
      InstantSource clock = InstantSource.system();
      for (int n = 0; n < places; n++) {
        UUID place = new UUID(1, n);
        Path folder = Files.createDirectories(keep.resolve(Integer.toString(n)));
        new FolderMarker(place, "RECOVERY", "bench", clock.instant())
            .write(disk, publisher, folder);
        folders.add(BackupFolder.open(disk, folder, place, "bench"));
      }
      project =
          ProjectRecord.of(
              new UUID(1, 3),
              "Heat",
              "heat",
              work.toString(),
              List.of("*.dat"),
              ProgramProfile.UNKNOWN,
              Plan.DEFAULT,
              List.of(keep.toString()),
              "UTC");
      BackupFolders recoveries = new BackupFolders(folders);
      recoveries.record(new JournalEntry.ProjectSet(clock.instant(), "bench", project));
      maker = new BackupMaker(disk, publisher, new HealthCheck(disk), recoveries, clock);
    }

    /** Seconds of one capture, which is taken away again afterwards. */
    double capture(Path source) throws Exception {
      long start = System.nanoTime();
      BackupMaker.Result made =
          maker.capture(
              BackupOrder.ofLive(project, document, source, "due", BackupOrder.How.CAREFULLY));
      double seconds = (System.nanoTime() - start) / 1e9;
      for (BackupFolder folder : folders) {
        Samples.clear(folder.absolute(made.capture().path()));
      }
      return seconds;
    }
  }
}
