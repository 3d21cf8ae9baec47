package dev.kavrin.demo;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.ProjectRecord;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Set;

/** The sample world as {@code ./kavrin demo} shows it. */
public final class Demo {
  private static final Set<String> SENT_ELSEWHERE = Set.of("carriage", "station");

  private Demo() {}

  /**
   * {@code java … ROOT ZONE NODE [STORE]}: makes the world in an empty folder, with a store
   * elsewhere if it is said at which address that will be served.
   */
  public static void main(String[] arguments) throws IOException {
    Path root = Path.of(arguments[0]);
    String node = arguments[2];
    Instant now = Instant.now();
    DemoWorld.make(root, now, ZoneId.of(arguments[1]), node);
    if (arguments.length > 3) {
      sendElsewhere(root, node, URI.create(arguments[3]), now);
    }
  }

  private static void sendElsewhere(Path root, String node, URI store, Instant now)
      throws IOException {
    Disk disk = new RealDisk();
    Path keep = root.resolve("keep");
    BackupFolder recovery =
        BackupFolder.open(disk, keep, FolderMarker.read(disk, keep).orElseThrow().uuid(), node);
    AnnexStore annex = new AnnexStore(root, store, disk, new Publisher(disk, node), now);
    for (ProjectRecord project : recovery.history().projects()) {
      if (SENT_ELSEWHERE.contains(project.slug())) {
        annex.take(recovery, project, now, "Ilse Quarn");
      }
    }
  }
}
