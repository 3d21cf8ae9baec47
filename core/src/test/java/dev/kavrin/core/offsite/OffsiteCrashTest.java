package dev.kavrin.core.offsite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.chunk.Sha256;
import dev.kavrin.core.disk.CrashDisk;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FolderKind;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.disk.StageName;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.journal.StoreSet;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Every state a power loss can leave on this machine while it sends, and while it brings back. */
class OffsiteCrashTest {
  private static final Path WORK = Path.of("/work");
  private static final Path KEEP = Path.of("/keep");
  private static final Path BACK = Path.of("/back");
  private static final Path LIVE = WORK.resolve("carriage.bin");
  private static final UUID DOCUMENT = new UUID(3, 4);
  private static final String BEGIN = "carriage-0/";
  private static final InstantSource CLOCK = () -> Instant.parse("2031-03-03T10:00:00Z");
  private static final List<String> TEXTS = List.of("one", "two", "three");

  private final ProjectRecord project =
      ProjectRecord.of(
          new UUID(5, 6),
          "Carriage",
          "carriage",
          WORK.toString(),
          List.of("*.bin"),
          ProgramProfile.UNKNOWN,
          Plan.every(Duration.ofMinutes(1), Counts.newest(9), Duration.ofMinutes(5)),
          List.of(KEEP.toString()),
          "UTC");

  /** What the store had got when the disk here had come to a step. */
  private final Map<String, Integer> arrivedAt = new HashMap<>();

  private UnsureStore store = new UnsureStore();

  /** One machine: a disk that may have lost power, and what works on it. */
  private final class Machine {
    private final Disk disk;
    private final Publisher publisher;
    private final BackupFolder keep;

    Machine(FolderKind kind, CrashDisk recorded, Path root) throws IOException {
      disk = kind.over(recorded);
      publisher = new Publisher(disk, "node");
      keep = BackupFolder.open(disk, root, new UUID(1, 1), "node");
    }

    void capture(String text) throws IOException {
      byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
      if (disk.facts(LIVE).isPresent()) {
        disk.unlink(LIVE);
      }
      try (Sink sink = disk.create(LIVE)) {
        sink.write(bytes, 0, bytes.length);
        sink.flush();
      }
      new BackupMaker(disk, publisher, new HealthCheck(disk), BackupFolders.of(keep), CLOCK)
          .capture(BackupOrder.ofLive(project, DOCUMENT, LIVE, "due", BackupOrder.How.CAREFULLY));
    }

    void send() {
      try (OffsiteSync sync =
          new OffsiteSync(
              disk, publisher, BackupFolders.of(keep), address -> store, Clockwork.steady(CLOCK))) {
        while (sync.tick(project)) {
          Thread.onSpinWait();
        }
        assertThat(sync.standing(project).get(0).problem()).isNull();
      }
    }

    OffsiteRecovery.Outcome bring() throws IOException {
      ProjectRecord as = project.movedTo(WORK.toString(), BACK.toString());
      return new OffsiteRecovery(disk, publisher, CLOCK)
          .bring(store, BEGIN, keep, as, null, copy -> {});
    }

    void settle() throws IOException {
      assertThat(new JournalRecovery(disk, publisher, keep, Reach.EVERYWHERE, CLOCK).settle())
          .isEmpty();
    }

    List<CopyElsewhere> counting() {
      return new Elsewhere(keep.history())
          .copies(DOCUMENT).stream().filter(CopyElsewhere::counts).toList();
    }
  }

  private CrashDisk disk(Path root) throws IOException {
    CrashDisk disk = new CrashDisk();
    disk.makeFolders(WORK);
    disk.makeFolders(root.resolve(".kavrin/bin"));
    disk.makeFolders(root.resolve("carriage"));
    new FolderMarker(new UUID(1, 1), "RECOVERY", "node", CLOCK.instant())
        .write(disk, new Publisher(disk, "node"), root);
    disk.flushFolder(root);
    return disk;
  }

  private StoreAddress address() throws IOException {
    return new StoreAddress(
        StoreMark.ensure(store, CLOCK.instant(), null).id(),
        "Annex",
        "s3://annex",
        BEGIN,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        0,
        false,
        null);
  }

  /** Captures and sends all, noting what was there when. */
  private CrashDisk sent(FolderKind kind) throws IOException {
    CrashDisk recorded = disk(KEEP);
    Machine machine = new Machine(kind, recorded, KEEP);
    machine.keep.record(new JournalEntry.ProjectSet(CLOCK.instant(), "Ilse Quarn", project));
    machine.keep.record(
        new JournalEntry.DocumentSet(CLOCK.instant(), DOCUMENT, project.id(), "carriage.bin"));
    machine.keep.record(new StoreSet(CLOCK.instant(), project.id(), "Ilse Quarn", address(), true));
    store.onPut = () -> note(recorded);
    note(recorded);
    for (String text : TEXTS) {
      machine.capture(text);
      machine.send();
    }
    assertThat(machine.counting()).hasSize(TEXTS.size());
    return recorded;
  }

  private void note(CrashDisk recorded) {
    store.objects.keySet().forEach(name -> arrivedAt.putIfAbsent(name, recorded.steps()));
  }

  private UnsureStore storeAt(int step, UnsureStore whole) {
    UnsureStore then = new UnsureStore();
    whole.objects.forEach(
        (name, bytes) -> {
          if (arrivedAt.get(name) <= step) {
            then.objects.put(name, bytes);
          }
        });
    return then;
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void afterAPowerCutWhatCountsIsThereAndTheRestFollowsOnce(FolderKind kind) throws IOException {
    CrashDisk recorded = sent(kind);
    UnsureStore whole = store;
    int begun = arrivedAt.get(StoreMark.NAME);
    for (int upTo = begun; upTo <= recorded.steps(); upTo++) {
      for (CrashDisk cut : recorded.states(upTo)) {
        store = storeAt(upTo, whole);
        Machine after = new Machine(kind, cut, KEEP);
        after.settle();
        for (CopyElsewhere copy : after.counting()) {
          assertThat(store.objects)
              .as("after step %s", upTo)
              .containsKey(BEGIN + copy.object())
              .satisfies(
                  o ->
                      assertThat(Sha256.of(o.get(BEGIN + copy.object()))).isEqualTo(copy.sha256()));
        }
        after.send();
        List<ContentId> here =
            after.keep.history().captures(DOCUMENT).stream().map(BackupRecord::content).toList();
        assertThat(after.counting())
            .extracting(CopyElsewhere::content)
            .as("after step %s", upTo)
            .containsExactlyInAnyOrderElementsOf(here);
        assertThat(
                store.objects.entrySet().stream()
                    .filter(o -> o.getKey().startsWith(BEGIN + "files/"))
                    .map(o -> Sha256.of(o.getValue())))
            .as("sent twice after step %s", upTo)
            .doesNotHaveDuplicates();
      }
    }
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void afterAPowerCutWhatCameBackIsWholeAndTheRestFollows(FolderKind kind) throws IOException {
    sent(kind);
    CrashDisk recorded = disk(BACK);
    int begun = recorded.steps();
    assertThat(new Machine(kind, recorded, BACK).bring().brought()).hasSize(TEXTS.size());
    List<ContentId> all = TEXTS.stream().map(ContentHash::of).toList();
    for (int upTo = begun; upTo <= recorded.steps(); upTo++) {
      for (CrashDisk cut : recorded.states(upTo)) {
        Machine after = new Machine(kind, cut, BACK);
        after.settle();
        assertWhole(after, all, upTo);
        assertThat(after.bring().failed()).isEmpty();
        assertThat(after.keep.history().captures(DOCUMENT))
            .extracting(BackupRecord::content)
            .as("after step %s", upTo)
            .containsExactlyInAnyOrderElementsOf(all);
        assertWhole(after, all, upTo);
      }
    }
  }

  private static void assertWhole(Machine after, List<ContentId> all, int upTo) throws IOException {
    for (BackupRecord record : after.keep.history().captures(DOCUMENT)) {
      assertThat(after.publisher.identify(after.keep.absolute(record.path())))
          .as("%s after step %s", record.path(), upTo)
          .isEqualTo(record.content());
    }
    for (Path file : after.disk.list(BACK.resolve("carriage"))) {
      if (!StageName.is(file)) {
        assertThat(all).as("%s after step %s", file, upTo).contains(after.publisher.identify(file));
      }
    }
  }
}
