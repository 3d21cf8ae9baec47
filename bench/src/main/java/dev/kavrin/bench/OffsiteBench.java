package dev.kavrin.bench;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.journal.StoreSet;
import dev.kavrin.core.offsite.OffsiteRecovery;
import dev.kavrin.core.offsite.OffsiteSync;
import dev.kavrin.core.offsite.Store;
import dev.kavrin.core.offsite.StoreMark;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.server.offsite.Buckets;
import dev.kavrin.server.offsite.KeyFiles;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;

/**
 * Sending to a store and bringing back, against {@code s3cmd}; the store is the stand-in of the
 * sample world on the same two cores. Kavrin reads back all it sends and flushes what it brings.
 */
final class OffsiteBench {

  private final Path folder;
  private final URI service;
  private final Path data;
  private final Disk disk = Disks.answering();
  private final Publisher publisher = new Publisher(disk, MadeBackups.NODE);
  private final Clockwork clock = Clockwork.system();

  private OffsiteBench(Path folder, String service, String data) {
    this.folder = folder;
    this.service = URI.create(service);
    this.data = Path.of(data);
  }

  /**
   * @param service address of the store's service
   * @param data folder whose keys open it
   */
  static void run(Path folder, String service, String data) throws Exception {
    OffsiteBench bench = new OffsiteBench(folder, service, data);
    bench.contest("offsite: one file of 2 GB there and back", 3, 1.2, 1, 2_000_000_000L);
    bench.contest("offsite: 10,000 files of 20 kB there and back", 3, 0.7, 10_000, 20_000);
  }

  private void contest(String what, int turns, double target, int files, long each)
      throws Exception {
    Path place = Files.createDirectories(folder.resolve("files-" + files));
    Backups backups = backups(place, files, each);
    Path settings = settings();
    Contest.run(
        what,
        turns,
        target,
        turn -> {
          long start = System.nanoTime();
          StoreAddress there = send(backups, bucket(files, turn) + "kavrin");
          Path back = place.resolve("back-" + turn);
          bring(there, backups.project(), back, files);
          double seconds = (System.nanoTime() - start) / 1e9;
          Samples.clearAll(back);
          return seconds;
        },
        "s3cmd",
        turn -> {
          Path back = Files.createDirectories(place.resolve("back-s3cmd"));
          double seconds = byS3cmd(settings, backups.files(), bucket(files, turn) + "s3cmd/", back);
          Samples.clearAll(back);
          return seconds;
        });
    Samples.clearAll(place);
  }

  /**
   * Each by its name: the service lists folders, and what was sent in parts, without a digest, on
   * which {@code s3cmd} stops.
   */
  private static double byS3cmd(Path settings, Path files, String there, Path back)
      throws Exception {
    List<String> send = new ArrayList<>(List.of("put"));
    List<String> fetch = new ArrayList<>(List.of("get"));
    try (Stream<Path> all = Files.list(files)) {
      for (Path file : all.sorted().toList()) {
        send.add(file.toString());
        fetch.add(there + file.getFileName());
      }
    }
    send.add(there);
    fetch.add(back + "/");
    return s3cmd(settings, send) + s3cmd(settings, fetch);
  }

  private static String bucket(int files, int turn) {
    return "s3://tarnwick/" + files + "-files-turn-" + turn + "/";
  }

  private static double s3cmd(Path settings, List<String> arguments) throws Exception {
    List<String> line = new ArrayList<>(List.of("s3cmd", "-q", "-c", settings.toString()));
    line.addAll(arguments);
    return Contest.command(line.toArray(String[]::new));
  }

  private Path settings() throws IOException {
    String host = service.getHost() + ":" + service.getPort();
    List<String> key = Files.readAllLines(data.resolve("keys/annex.key"));
    return Files.write(
        folder.resolve("s3cmd"),
        List.of(
            "[default]",
            key.get(0).replace("access-key=", "access_key = "),
            key.get(1).replace("secret-key=", "secret_key = "),
            "host_base = " + host,
            "host_bucket = " + host,
            "use_https = False"));
  }

  /** A backup folder of one project, made as Kavrin would have made it. */
  private record Backups(ProjectRecord project, BackupFolders folders, Path files) {}

  private Backups backups(Path place, int files, long each) throws Exception {
    MadeBackups made =
        new MadeBackups(disk, publisher, place.resolve("keep"), place.resolve("work"));
    for (int n = 0; n < files; n++) {
      Path file = made.next(new UUID(2, n), "carriage-" + n + ".glb");
      Samples.write(file, each, n);
      made.record(new UUID(2, n), "carriage-" + n + ".glb", file);
    }
    BackupFolder keep = made.folder();
    Contest.command("sync", "-f", keep.root().toString());
    return new Backups(made.project(), BackupFolders.of(keep), keep.root().resolve("carriage"));
  }

  /** All of it, read back there. */
  private StoreAddress send(Backups backups, String there) throws IOException {
    Buckets buckets = new Buckets(new KeyFiles(data));
    StoreAddress address = address(new UUID(4, 4), there);
    try (Store store = buckets.open(address)) {
      address = address(StoreMark.ensure(store, clock.instant(), null).id(), there);
    }
    ProjectRecord project = backups.project();
    backups.folders().record(new StoreSet(clock.instant(), project.id(), "bench", address, true));
    try (OffsiteSync sync = new OffsiteSync(disk, publisher, backups.folders(), buckets, clock)) {
      while (sync.tick(project)) {
        Thread.onSpinWait();
      }
      OffsiteSync.Standing standing = sync.standing(project).get(0);
      if (!standing.waiting().isEmpty() || standing.problem() != null) {
        throw new IOException(standing.waiting().size() + " not sent: " + standing.problem());
      }
    } finally {
      backups
          .folders()
          .record(new StoreSet(clock.instant(), project.id(), "bench", address, false));
    }
    return address;
  }

  private StoreAddress address(UUID id, String there) {
    return new StoreAddress(
        id,
        "Annex",
        there,
        "carriage-0/",
        service.toString(),
        null,
        "annex.key",
        null,
        null,
        null,
        null,
        null,
        0,
        false,
        null);
  }

  private void bring(StoreAddress from, ProjectRecord project, Path to, int files)
      throws IOException {
    BackupFolder keep = MadeBackups.open(disk, publisher, to);
    try (Store store = new Buckets(new KeyFiles(data)).open(from)) {
      OffsiteRecovery.Outcome outcome =
          new OffsiteRecovery(disk, publisher, clock)
              .bring(
                  store,
                  from.begin(),
                  keep,
                  project.movedTo(project.folder(), to.toString()),
                  null,
                  copy -> {});
      if (outcome.brought().size() != files) {
        throw new IOException(outcome.brought().size() + " came back: " + outcome.failed());
      }
    }
  }
}
