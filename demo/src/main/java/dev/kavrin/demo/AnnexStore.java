package dev.kavrin.demo;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.journal.StoreSet;
import dev.kavrin.core.offsite.FolderStore;
import dev.kavrin.core.offsite.StoreMark;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.UUID;

/** The railway's store in the annex across the valley, as its projects are set to use it. */
final class AnnexStore {
  private static final String BUCKET = "tarnwick";

  private final URI service;
  private final UUID mark;

  /**
   * Makes the store's folder; {@code annex.port} beside it says where it is to be served.
   *
   * @param root of the sample world
   */
  AnnexStore(Path root, URI service, Disk disk, Publisher publisher, Instant now)
      throws IOException {
    this.service = service;
    Path bucket = Files.createDirectories(root.resolve("annex").resolve(BUCKET));
    this.mark = StoreMark.ensure(new FolderStore(disk, publisher, bucket), now, null).id();
    Files.writeString(root.resolve("annex.port"), service.getPort() + "\n");
  }

  /** From now on the project's copies are sent there. */
  void take(BackupFolder recovery, ProjectRecord project, Instant now, String who)
      throws IOException {
    StoreAddress address =
        new StoreAddress(
            mark,
            "Annex across the valley",
            "s3://" + BUCKET,
            StoreAddress.begin(project.slug(), project.id()),
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
    recovery.record(new StoreSet(now, project.id(), who, address, true));
  }
}
