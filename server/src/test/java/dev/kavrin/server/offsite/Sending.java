package dev.kavrin.server.offsite;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.offsite.OffsiteRecovery;
import dev.kavrin.core.offsite.OffsiteSync;
import dev.kavrin.core.offsite.Store;
import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.file.Path;

/**
 * {@code DATA FOLDER send} or {@code DATA FOLDER bring TO}: what the service does with a store, as
 * a process to be killed. Prints a line once it has begun and one when all is done.
 */
final class Sending {
  static final String NODE = "sending";

  private final Disk disk = new RealDisk();
  private final Publisher publisher = new Publisher(disk, NODE);
  private final Buckets buckets;
  private final BackupFolder keep;
  private final ProjectRecord project;

  private Sending(Path data, Path folder) throws IOException {
    buckets = new Buckets(new KeyFiles(data));
    keep = open(disk, folder);
    project = keep.history().projects().get(0);
  }

  public static void main(String[] arguments) throws Exception {
    Sending sending = new Sending(Path.of(arguments[0]), Path.of(arguments[1]));
    if (arguments[2].equals("send")) {
      sending.send();
    } else {
      sending.bring(Path.of(arguments[3]));
    }
    say("done");
  }

  private static void say(String line) {
    System.out.println(line);
    System.out.flush();
  }

  static BackupFolder open(Disk disk, Path folder) throws IOException {
    FolderMarker marker = FolderMarker.read(disk, folder).orElseThrow();
    return BackupFolder.open(disk, folder, marker.uuid(), NODE);
  }

  private StoreAddress store() {
    return new Elsewhere(keep.history()).stores(project.id()).get(0);
  }

  private void send() throws IOException {
    try (OffsiteSync sync =
        new OffsiteSync(disk, publisher, BackupFolders.of(keep), buckets, Clockwork.system())) {
      say("begun");
      while (sync.tick(project)) {
        Thread.onSpinWait();
      }
      OffsiteSync.Standing standing = sync.standing(project).get(0);
      if (standing.problem() != null || !standing.waiting().isEmpty()) {
        throw new IOException(standing.waiting().size() + " wait: " + standing.problem());
      }
    }
  }

  private void bring(Path to) throws IOException {
    BackupFolder back = open(disk, to);
    try (Store store = buckets.open(store())) {
      say("begun");
      OffsiteRecovery.Outcome outcome =
          new OffsiteRecovery(disk, publisher, Clockwork.system())
              .bring(
                  store,
                  store().begin(),
                  back,
                  project.movedTo(project.folder(), to.toString()),
                  null,
                  copy -> {});
      if (!outcome.failed().isEmpty()) {
        throw new IOException(String.join(", ", outcome.failed()));
      }
    }
  }
}
