package dev.kavrin.bench;

import dev.kavrin.core.compact.Compactor;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.units.Clockwork;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.UUID;

/**
 * Compacting against {@code zstd -3} of the same files, one core each, and restoring a compacted
 * version against {@code cp} and a flush. Kavrin reads each file twice and unpacks it once to
 * compare.
 */
final class CompactBench {
  private static final UUID DOCUMENT = new UUID(2, 2);
  private static final String PATH = "carriage.glb";
  private static final int VERSIONS = 10;
  private static final long EACH = 100_000_000;
  private static final long LARGE = 1_000_000_000;
  private static final int PIECE = 2_000_000;

  private final CompactedDisk disk = new CompactedDisk(Disks.answering());
  private final Publisher publisher = new Publisher(disk, MadeBackups.NODE);
  private final Path folder;

  private CompactBench(Path folder) {
    this.folder = folder;
  }

  static void run(Path folder) throws Exception {
    CompactBench bench = new CompactBench(folder);
    bench.compacting();
    bench.restoring();
  }

  /** Versions of a file of which one stretch is another each time. */
  private List<BackupRecord> versions(MadeBackups made, int count, long each) throws Exception {
    List<BackupRecord> all = new ArrayList<>();
    Random random = new Random(5);
    Path before = null;
    for (int n = 0; n < count; n++) {
      Path file = made.next(DOCUMENT, PATH);
      if (before == null) {
        Samples.write(file, each, 1);
      } else {
        Files.copy(before, file, StandardCopyOption.REPLACE_EXISTING);
        byte[] piece = new byte[PIECE];
        random.nextBytes(piece);
        try (var out = Files.newByteChannel(file, java.nio.file.StandardOpenOption.WRITE)) {
          out.position((long) (random.nextDouble() * (each - PIECE)));
          out.write(java.nio.ByteBuffer.wrap(piece));
        }
      }
      all.add(made.record(DOCUMENT, PATH, file));
      before = file;
    }
    Contest.command("sync", "-f", made.folder().root().toString());
    return all;
  }

  private void compacting() throws Exception {
    Contest.run(
        "compact: 10 versions of 100 MB, 2 MB of each another",
        3,
        1.5,
        turn -> {
          Path place = folder.resolve("compact-" + turn);
          MadeBackups made =
              new MadeBackups(disk, publisher, place.resolve("keep"), place.resolve("work"));
          List<BackupRecord> all = versions(made, VERSIONS, EACH);
          Compactor compactor = new Compactor(disk, publisher, Clockwork.system());
          long start = System.nanoTime();
          Compactor.Outcome outcome = compactor.compact(made.folder(), DOCUMENT, all);
          double seconds = (System.nanoTime() - start) / 1e9;
          System.out.printf(
              "  %d MB/s, %d MB to %d MB%n",
              Math.round(outcome.before() / seconds / 1e6),
              outcome.before() / 1_000_000,
              outcome.after() / 1_000_000);
          Samples.clearAll(place);
          return seconds;
        },
        "zstd",
        turn -> {
          Path place = folder.resolve("zstd-" + turn);
          MadeBackups made =
              new MadeBackups(disk, publisher, place.resolve("keep"), place.resolve("work"));
          List<String> line = new ArrayList<>(List.of("zstd", "-3", "-q", "--single-thread"));
          for (BackupRecord backup : versions(made, VERSIONS, EACH)) {
            line.add(made.folder().absolute(backup.path()).toString());
          }
          double seconds = Contest.command(line.toArray(String[]::new));
          Samples.clearAll(place);
          return seconds;
        });
  }

  private void restoring() throws Exception {
    Path place = folder.resolve("restore");
    MadeBackups made =
        new MadeBackups(disk, publisher, place.resolve("keep"), place.resolve("work"));
    List<BackupRecord> both = versions(made, 2, LARGE);
    Path plain = made.folder().absolute(both.get(0).path());
    new Compactor(disk, publisher, Clockwork.system())
        .compact(made.folder(), DOCUMENT, both.subList(1, 2));
    Path compacted = made.folder().absolute(both.get(1).path());
    Files.createDirectories(place.resolve("work"));
    Contest.run(
        "compact: restoring a version of 1 GB",
        3,
        1.5,
        turn -> {
          Path to = place.resolve("work").resolve("back-" + turn + ".glb");
          long start = System.nanoTime();
          publisher.copy(compacted, to);
          double seconds = (System.nanoTime() - start) / 1e9;
          Files.delete(to);
          return seconds;
        },
        "cp",
        turn -> {
          Path to = place.resolve("work").resolve("cp-" + turn + ".glb");
          double seconds =
              Contest.command("cp", plain.toString(), to.toString())
                  + Contest.command("sync", to.toString());
          Files.delete(to);
          return seconds;
        });
    Samples.clearAll(place);
  }
}
