package dev.kavrin.core.restore;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.restore.Restorer.Order;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;

/** Three sheets on a disk: two are there and go back together, one is gone and comes back. */
final class Sheets {
  static final InstantSource CLOCK = () -> Instant.parse("2031-03-03T10:00:00Z");
  static final List<String> NAMES = List.of("plan.dxf", "section.dxf", "lost.dxf");
  private static final UUID PROJECT = new UUID(5, 6);
  private static final UUID PLACE = new UUID(1, 1);

  final Disk disk;
  final Publisher publisher;
  final BackupFolder recovery;
  final Restorer restorer;
  final GroupRestore groups;
  final Path work;
  final Path keep;

  Sheets(Disk disk, Path root) throws IOException {
    this.disk = disk;
    this.work = root.resolve("work");
    this.keep = root.resolve("keep");
    this.publisher = new Publisher(disk, "node");
    if (FolderMarker.read(disk, keep).isEmpty()) {
      disk.makeFolders(work.resolve(".kavrin/aside"));
      disk.makeFolders(keep.resolve(".kavrin"));
      disk.makeFolders(root.resolve("other"));
      new FolderMarker(PLACE, "RECOVERY", "node", CLOCK.instant()).write(disk, publisher, keep);
      disk.flushFolder(keep);
    }
    this.recovery = BackupFolder.open(disk, keep, PLACE, "node");
    this.restorer = new Restorer(disk, publisher, new HealthCheck(disk), recovery, CLOCK);
    this.groups = new GroupRestore(restorer);
  }

  /** Copies of all three as they were, and two of them as they are. */
  Sheets begin() throws IOException {
    for (String name : NAMES) {
      write(keep.resolve(name), then(name));
      if (!name.startsWith("lost")) {
        write(work.resolve(name), now(name));
      }
    }
    return this;
  }

  static String then(String name) {
    return name + " as it was";
  }

  static String now(String name) {
    return name + " as it is";
  }

  void write(Path file, String text) throws IOException {
    byte[] bytes = text.getBytes(UTF_8);
    try (Sink sink = disk.create(file)) {
      sink.write(bytes, 0, bytes.length);
      sink.flush();
    }
    disk.flushFolder(file.getParent());
  }

  List<Order> orders() throws IOException {
    List<Order> orders = new ArrayList<>();
    for (String name : NAMES) {
      orders.add(order(RestoreMode.REPLACE, name));
    }
    return orders;
  }

  Order order(RestoreMode mode, String name) throws IOException {
    RestorePlan plan =
        restorer
            .planner()
            .plan(
                mode,
                keep.resolve(name),
                work.resolve(name),
                CLOCK.instant(),
                ZoneOffset.UTC,
                keep.resolveSibling("other"));
    return new Order(UUID.randomUUID(), plan, new UUID(7, name.length()), CopyKind.CAPTURE, null);
  }

  List<Receipt> restore(UUID group) throws IOException {
    return groups.restore(
        new GroupRestore.GroupOrder(group, PROJECT, "as of then", orders()), "Ilse Quarn");
  }

  List<Receipt> undo(UUID undo, UUID group, List<Receipt> receipts) throws IOException {
    return groups.undo(undo, PROJECT, group, "undo", receipts, "Ilse Quarn");
  }

  void settle() throws IOException {
    assertThat(new JournalRecovery(disk, publisher, recovery, Reach.EVERYWHERE, CLOCK).settle())
        .isEmpty();
  }

  /** What stands at a name: a text of it, or that nothing does. */
  String stands(Path file) throws IOException {
    if (disk.facts(file).isEmpty()) {
      return "nothing";
    }
    ContentId content = publisher.identify(file);
    String name = file.getFileName().toString();
    for (String text : List.of(then(name), now(name))) {
      if (content.equals(ContentHash.of(text))) {
        return text;
      }
    }
    return "other bytes";
  }

  List<String> standing() throws IOException {
    List<String> all = new ArrayList<>();
    for (String name : NAMES) {
      all.add(stands(work.resolve(name)));
    }
    return all;
  }

  static List<String> before() {
    return List.of(now(NAMES.get(0)), now(NAMES.get(1)), "nothing");
  }

  static List<String> after() {
    return NAMES.stream().map(Sheets::then).toList();
  }
}
