package dev.kavrin.core.replica;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.disk.CrashDisk;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.FolderKind;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.retention.Retention;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * Any sequence of saves, backups, pins, drops, kills and folders that go and come ends, when all is
 * back, in the same versions in every folder as without the kills and the going.
 */
class SequencesTest {
  private static final Path WORK = Path.of("/work");
  private static final Path LIVE = WORK.resolve("carriage.bin");
  private static final List<Path> FOLDERS = List.of(Path.of("/keep"), Path.of("/shelf"));
  private static final UUID DOCUMENT = new UUID(3, 4);
  private static final int STORIES = Boolean.getBoolean("kavrin.full") ? 200 : 12;
  private static final int LENGTH = 14;
  private static final double[] CHANCES = {0, 0.3, 0.5, 0.8, 1};

  private final ProjectRecord project =
      ProjectRecord.of(
          new UUID(5, 6),
          "Carriage",
          "carriage",
          WORK.toString(),
          List.of("*.bin"),
          ProgramProfile.UNKNOWN,
          Plan.every(Duration.ofMinutes(1), Counts.newest(3), Duration.ofMinutes(5)),
          FOLDERS.stream().map(Path::toString).toList(),
          "UTC");

  /** Folders whose drive was pulled: nothing stands there. */
  private static final class Away extends ForwardingDisk {
    private final Set<Path> away;

    Away(Disk disk, Set<Path> away) {
      super(disk);
      this.away = away;
    }

    @Override
    public Optional<FileFacts> facts(Path path) throws IOException {
      return away.stream().anyMatch(path::startsWith) ? Optional.empty() : super.facts(path);
    }
  }

  /** The engine over one state of the disk. */
  private final class Engine {
    private final CrashDisk recorded;
    private final Set<Path> away = new HashSet<>();
    private final Disk disk;
    private final InstantSource clock;
    private final List<BackupFolder> folders = new ArrayList<>();
    private final BackupFolders all;
    private final BackupMaker backups;
    private final Retention retention;
    private final ReplicaSync sync;
    private final Publisher publisher;

    Engine(FolderKind kind, CrashDisk recorded, long time) throws IOException {
      this.recorded = recorded;
      this.disk = new Away(kind.over(recorded), away);
      this.clock = () -> Instant.parse("2031-03-03T10:00:00Z").plusSeconds(60 * time);
      this.publisher = new Publisher(disk, "node");
      for (Path root : FOLDERS) {
        UUID uuid = new UUID(1, root.toString().length());
        if (FolderMarker.read(disk, root).isEmpty()) {
          disk.makeFolders(root);
          new FolderMarker(uuid, "RECOVERY", "node", clock.instant()).write(disk, publisher, root);
        }
        folders.add(BackupFolder.open(disk, root, uuid, "node"));
      }
      all = new BackupFolders(List.of(folders.get(0)));
      folders.stream().skip(1).forEach(all::add);
      backups = new BackupMaker(disk, publisher, new HealthCheck(disk), all, clock);
      retention = new Retention(disk, publisher, all, clock);
      sync = new ReplicaSync(disk, publisher, all, clock);
    }

    void settle() throws IOException {
      for (BackupFolder folder : folders) {
        assertThat(new JournalRecovery(disk, publisher, folder, Reach.EVERYWHERE, clock).settle())
            .isEmpty();
      }
      look();
    }

    void look() {
      all.look();
      sync.tick(project);
    }

    void save(String text) throws IOException {
      byte[] bytes = text.getBytes(UTF_8);
      if (disk.facts(LIVE).isPresent()) {
        recorded.unlink(LIVE);
      }
      try (Sink sink = recorded.create(LIVE)) {
        sink.write(bytes, 0, bytes.length);
        sink.flush();
      }
      recorded.flushFolder(WORK);
    }

    void backUp() throws IOException {
      look();
      backups.capture(
          BackupOrder.ofLive(project, DOCUMENT, LIVE, "due", BackupOrder.How.CAREFULLY));
    }

    void pin(String text) throws IOException {
      look();
      String state = dev.kavrin.core.version.Manifest.ofFile(ContentHash.of(text)).digest();
      all.record(
          new JournalEntry.Marked(
              clock.instant(), DOCUMENT, state, "pinned", true, "Ilse Quarn", null));
    }

    void keep() throws IOException {
      look();
      retention.apply(project, DOCUMENT);
    }

    List<Set<String>> versions() {
      return folders.stream()
          .map(
              f ->
                  f.history().captures(DOCUMENT).stream()
                      .map(BackupRecord::state)
                      .collect(Collectors.toCollection(TreeSet::new)))
          .map(s -> (Set<String>) s)
          .toList();
    }
  }

  private Engine fresh(FolderKind kind) throws IOException {
    CrashDisk disk = new CrashDisk();
    disk.makeFolders(WORK);
    Engine engine = new Engine(kind, disk, 0);
    engine.all.record(new JournalEntry.ProjectSet(engine.clock.instant(), "Ilse Quarn", project));
    engine.all.record(
        new JournalEntry.DocumentSet(
            engine.clock.instant(), DOCUMENT, project.id(), LIVE.getFileName().toString()));
    engine.look();
    return engine;
  }

  /** One step of a story; telling it again after a kill changes nothing more. */
  private static void tell(Engine engine, int step, int what) throws IOException {
    switch (what) {
      case 0 -> engine.pin("version " + (step - 1));
      case 1 -> engine.keep();
      default -> {
        engine.save("version " + step);
        engine.backUp();
        engine.keep();
      }
    }
  }

  /**
   * @param troubled true to kill and pull drives on the way
   */
  private List<Set<String>> story(FolderKind kind, int seed, boolean troubled) throws IOException {
    Random plot = new Random(seed);
    Random trouble = new Random(31L * seed);
    Engine engine = fresh(kind);
    for (int step = 1; step <= LENGTH; step++) {
      int what = plot.nextInt(6);
      engine = again(kind, engine, step);
      if (troubled && trouble.nextInt(4) == 0) {
        engine.away.add(FOLDERS.get(trouble.nextInt(2)));
      }
      int from = engine.recorded.steps();
      tell(engine, step, what);
      if (troubled && trouble.nextInt(3) == 0) {
        int killed = from + trouble.nextInt(engine.recorded.steps() - from + 1);
        double chance = CHANCES[trouble.nextInt(CHANCES.length)];
        engine = new Engine(kind, engine.recorded.after(killed, trouble, chance), step);
        engine.settle();
        tell(engine, step, what);
      }
    }
    engine = again(kind, engine, LENGTH + 1);
    engine.look();
    engine.keep();
    engine.look();
    assertThat(engine.folders).allMatch(f -> f.history().undone().isEmpty());
    return engine.versions();
  }

  /** All drives are back, and time went on. */
  private Engine again(FolderKind kind, Engine engine, int time) throws IOException {
    engine.away.clear();
    Engine next = new Engine(kind, engine.recorded, time);
    next.settle();
    return next;
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void endInTheSameVersionsInEveryFolder(FolderKind kind) throws IOException {
    for (int seed = 0; seed < STORIES; seed++) {
      List<Set<String>> calm = story(kind, seed, false);
      assertThat(calm.get(1)).as("story %s", seed).isEqualTo(calm.get(0));
      assertThat(story(kind, seed, true)).as("story %s, troubled", seed).isEqualTo(calm);
    }
  }
}
