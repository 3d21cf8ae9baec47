package dev.kavrin.core.incident;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FolderKind;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.keep.ProgramCounts;
import dev.kavrin.core.lane.Lanes;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What a program writes aside is kept as it appears, whatever the program does with it then. */
class AsWrittenTest extends EngineFixture {
  private static final Duration LOOK = Duration.ofSeconds(1);

  private AsWritten asWritten;

  @BeforeEach
  void begin() throws IOException {
    write(live, model(1));
    write(live.resolveSibling(".carriage-02.open"), new byte[] {1});
    Files.createDirectories(drafts());
    programRuns = true;
    change(project.plan().with(new ProgramCounts(500, Duration.ZERO)));
    watching(disk);
  }

  /** Kavrin starts, its work folder on such a disk. */
  private void watching(Disk on) throws IOException {
    looksAt(on);
    looks(1);
  }

  private void looksAt(Disk on) {
    Publisher its = new Publisher(on, "node");
    BackupMaker maker = new BackupMaker(on, its, new HealthCheck(on), recoveries, this);
    RetainedLeftovers leftovers = new RetainedLeftovers(on, its, maker);
    asWritten = new AsWritten(on, recoveries, leftovers, keeper, Lanes.HERE, this);
  }

  private Path drafts() {
    return live.resolveSibling(".drafts");
  }

  private Path slot(int n) {
    return drafts().resolve("carriage-02~" + n + ".tmp");
  }

  private void looks(int times) throws IOException {
    for (int i = 0; i < times; i++) {
      wait(LOOK);
      asWritten.tick(project, programRuns, true);
    }
  }

  private void anew(Path file, byte[] bytes) throws IOException {
    Path stage = file.resolveSibling("being-written");
    write(stage, bytes);
    Files.move(stage, file, StandardCopyOption.REPLACE_EXISTING);
  }

  private List<BackupRecord> kept() {
    return captures().stream().filter(b -> b.kind() == CopyKind.AS_WRITTEN).toList();
  }

  private byte[] bytes(BackupRecord backup) {
    try {
      return Files.readAllBytes(recovery.absolute(backup.path()));
    } catch (IOException unreadable) {
      throw new AssertionError(unreadable);
    }
  }

  private List<Path> retained() throws IOException {
    Path held = RetainedNames.in(drafts());
    if (!Files.exists(held)) {
      return List.of();
    }
    try (Stream<Path> all = Files.walk(held)) {
      return all.filter(p -> !p.equals(held)).toList();
    }
  }

  @Test
  void anAutosaveIsKeptWhileTheProgramRunsAndIsAVersionLikeAnyOther() throws IOException {
    write(slot(1), model(5));
    looks(2);
    assertThat(kept()).hasSize(1);
    BackupRecord copy = kept().get(0);
    assertThat(copy.sourceKind()).isEqualTo(CopyKind.AUTOSAVE);
    assertThat(copy.verdict()).isEqualTo(Verdict.INTACT);
    assertThat(bytes(copy)).isEqualTo(model(5));
    assertThat(asWritten.last(DOCUMENT))
        .hasValueSatisfying(k -> assertThat(k.open()).isLessThanOrEqualTo(Duration.ofSeconds(2)));
    assertThat(retained()).isEmpty();
    looks(5);
    assertThat(kept()).hasSize(1);
  }

  @Test
  void whatIsWrittenBeforeTheFirstLookOfAWatchThatHasBegunIsNew() throws IOException {
    looksAt(disk);
    write(slot(1), model(5));
    looks(2);
    assertThat(kept()).hasSize(1);
  }

  @Test
  void aFileWithATimeToComeAtTheFirstLookIsNotTakenForNew() throws IOException {
    looksAt(disk);
    write(slot(1), model(5));
    Files.setLastModifiedTime(slot(1), FileTime.from(now.plus(Duration.ofDays(1595))));
    looks(3);
    assertThat(kept()).isEmpty();
  }

  @Test
  void whatLayThereBeforeAndWhatOnlyGotAnotherNameIsNotTakenForNew() throws IOException {
    write(slot(1), model(1));
    wait(Duration.ofSeconds(5));
    programRuns = false;
    watching(disk);
    programRuns = true;
    looks(3);
    assertThat(kept()).isEmpty();
    Files.move(slot(1), slot(2));
    looks(3);
    assertThat(kept()).isEmpty();
  }

  @Test
  void deletedAtCloseRightAfterItWasSeenItIsKeptByItsSecondName() throws IOException {
    anew(slot(1), model(7));
    looks(1);
    Files.delete(slot(1));
    programRuns = false;
    looks(2);
    assertThat(kept()).extracting(this::bytes).containsExactly(model(7));
    assertThat(retained()).isEmpty();
  }

  @Test
  void diedTogetherTheProgramsLastContentIsSecuredAtTheNextStart() throws IOException {
    anew(slot(1), model(8));
    looks(1);
    Files.delete(slot(1));
    open();
    programRuns = false;
    incidents.tick(project);
    incidents.secure(project);
    assertThat(captures()).extracting(this::bytes).contains(model(8));
    assertThat(retained()).isEmpty();
  }

  @Test
  void whatWasRetainedIsSecuredInTheOrderInWhichItWasWritten() throws IOException {
    for (int n : List.of(3, 1, 2)) {
      anew(slot(n), model(30 + n));
      wait(LOOK);
      asWritten.tick(project, true, false);
    }
    open();
    incidents.secure(project);
    assertThat(captures()).extracting(this::bytes).containsExactly(model(33), model(31), model(32));
  }

  @Test
  void whileThePlanPausesNothingIsCopiedAndItIsMadeUpForAfterwards() throws IOException {
    anew(slot(1), model(3));
    for (int i = 0; i < 4; i++) {
      wait(LOOK);
      asWritten.tick(project, true, false);
    }
    Files.delete(slot(1));
    assertThat(kept()).isEmpty();
    looks(2);
    assertThat(kept()).extracting(this::bytes).containsExactly(model(3));
  }

  @Test
  void aHalfWrittenOneIsNotKeptUntilItIsWholeOrForsaken() throws IOException {
    byte[] whole = model(4);
    write(slot(1), Arrays.copyOf(whole, whole.length / 2));
    looks(4);
    assertThat(kept()).isEmpty();
    write(slot(1), whole);
    looks(2);
    assertThat(kept()).extracting(this::bytes).containsExactly(whole);
    write(slot(2), Arrays.copyOf(whole, whole.length / 2));
    looks(14);
    assertThat(kept()).hasSize(2);
    assertThat(kept().get(1).verdict()).isEqualTo(Verdict.DAMAGED);
  }

  @Test
  void anotherDocumentWhoseNameLooksLikeACopyIsNone() throws IOException {
    project =
        project.with(
            new ProgramProfile(
                "Modeller",
                "modeller",
                null,
                null,
                List.of(ProgramProfile.Leftover.of(CopyKind.AUTOSAVE, ".", "{stem}-{n}.glb")),
                null),
            project.plan());
    UUID other = new UUID(2, 3);
    recoveries.record(new JournalEntry.DocumentSet(now, other, project.id(), "carriage-02-3.glb"));
    watching(disk);
    write(live.resolveSibling("carriage-02-3.glb"), model(40));
    write(live.resolveSibling("carriage-02-4.glb"), model(41));
    looks(3);
    assertThat(kept()).extracting(this::bytes).containsExactly(model(41));
  }

  @Test
  void switchedOffNothingIsKept() throws IOException {
    change(project.plan().with(ProgramCounts.OFF));
    write(slot(1), model(5));
    looks(3);
    assertThat(kept()).isEmpty();
  }

  @Test
  void theLastOnesAndOneAnHourStayBesideWhatThePersonSaved() throws IOException {
    change(project.plan().with(new ProgramCounts(2, Duration.ofHours(24))));
    watch.copyNow(DOCUMENT, null);
    BackupRecord saved = captures().get(0);
    for (int i = 0; i < 12; i++) {
      write(slot(1), model(100 + i));
      looks(2);
      wait(Duration.ofMinutes(20));
    }
    keeper.apply(project, DOCUMENT);
    assertThat(captures()).contains(saved);
    List<Integer> hours =
        kept().stream()
            .map(b -> b.workTo().toString())
            .map(t -> t.substring(11, 13))
            .distinct()
            .map(Integer::parseInt)
            .toList();
    assertThat(hours).hasSize(4);
    assertThat(kept().size()).isBetween(4, 6);
    assertThat(bytes(kept().get(kept().size() - 1))).isEqualTo(model(111));
    assertThat(new KeepInputs(recovery.history(), DOCUMENT).protecting()).contains(saved);
  }

  @Test
  void savedByThePersonTheSameBytesStayByThePlanAndNotTwice() throws IOException {
    write(slot(1), model(9));
    looks(2);
    write(live, model(9));
    watch.copyNow(DOCUMENT, null);
    keeper.apply(project, DOCUMENT);
    assertThat(captures()).hasSize(1).allMatch(b -> b.kind() == CopyKind.CAPTURE);
  }

  @Test
  void aKeptOneIsRestoredAsAnyOther() throws IOException {
    write(slot(1), model(6));
    looks(2);
    Files.delete(slot(1));
    Path file = recovery.absolute(kept().get(0).path());
    RestorePlan plan =
        restorer
            .planner()
            .plan(RestoreMode.REPLACE, file, live, kept().get(0).workTo(), ZoneOffset.UTC);
    restorer.restore(new Restorer.Order(plan, DOCUMENT, CopyKind.AS_WRITTEN), "Ilse Quarn");
    assertThat(Files.readAllBytes(live)).isEqualTo(model(6));
  }

  /** What a program did, and the contents that had to survive it. */
  private final class Program {
    private final Random random;
    private final List<byte[]> promised = new ArrayList<>();
    private int count;

    Program(long seed) {
      this.random = new Random(seed);
    }

    void act() throws IOException {
      byte[] content = model(1000 + ++count);
      Path slot = slot(1 + random.nextInt(3));
      switch (random.nextInt(4)) {
        case 0 -> write(slot, content);
        case 1 -> anew(slot, content);
        case 2 -> {
          for (int n = 3; n > 1; n--) {
            if (Files.exists(slot(n - 1))) {
              Files.move(slot(n - 1), slot(n), StandardCopyOption.REPLACE_EXISTING);
            }
          }
          slot = slot(1);
          anew(slot, content);
        }
        default -> {
          write(slot, Arrays.copyOf(content, content.length / 2));
          looks(1 + random.nextInt(2));
          write(slot, content);
        }
      }
      int seen = random.nextInt(4);
      looks(seen);
      if (random.nextInt(5) == 0) {
        Files.delete(slot);
      }
      if (seen >= 2) {
        promised.add(content);
      }
    }
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void everyContentThatStoodForTwoLooksIsFoundInOrder(FolderKind kind) throws IOException {
    watching(kind.over(disk));
    Program program = new Program(kind.ordinal() * 31L + 7);
    for (int i = 0; i < 60; i++) {
      program.act();
    }
    looks(12);
    List<byte[]> whole =
        kept().stream().filter(b -> b.verdict() == Verdict.INTACT).map(this::bytes).toList();
    assertThat(program.promised).hasSizeGreaterThan(15);
    int from = 0;
    for (byte[] content : program.promised) {
      int at = from;
      while (at < whole.size() && !Arrays.equals(whole.get(at), content)) {
        at++;
      }
      assertThat(at).as("content %d", program.promised.indexOf(content)).isLessThan(whole.size());
      from = at + 1;
    }
    assertThat(retained()).isEmpty();
  }

  /** As of a share that answers no longer: what it held is neither gone nor new when it is back. */
  @Test
  void aFolderThatCannotBeListedForAWhileHoldsNothingNewAfterwards() throws IOException {
    AtomicBoolean silent = new AtomicBoolean();
    AtomicInteger read = new AtomicInteger();
    watching(
        new ForwardingDisk(disk) {
          @Override
          public List<Path> list(Path folder) throws IOException {
            if (silent.get() && folder.equals(drafts())) {
              throw new IOException(folder + " does not answer");
            }
            return super.list(folder);
          }

          @Override
          public SeekableByteChannel read(Path file) throws IOException {
            read.addAndGet(file.startsWith(drafts()) ? 1 : 0);
            return super.read(file);
          }
        });
    write(slot(1), model(50));
    looks(3);
    assertThat(kept()).hasSize(1);
    int before = read.get();
    silent.set(true);
    looks(3);
    silent.set(false);
    looks(3);
    assertThat(kept()).hasSize(1);
    assertThat(read.get()).as("nothing was read again").isEqualTo(before);
  }

  @Test
  void aFolderThatTakesLongToListIsLookedAtTheMoreRarely() throws IOException {
    AtomicInteger listed = new AtomicInteger();
    watching(
        new ForwardingDisk(disk) {
          @Override
          public List<Path> list(Path folder) throws IOException {
            if (folder.equals(drafts())) {
              listed.incrementAndGet();
              running = running.plusMillis(200);
            }
            return super.list(folder);
          }
        });
    int before = listed.get();
    write(slot(1), model(60));
    looks(20);
    assertThat(listed.get() - before).isBetween(4, 8);
    assertThat(kept()).as("later, and all the same").hasSize(1);
  }

  /** A disk that clones, as btrfs and XFS do: the clone has bytes of its own. */
  private Disk cloning() {
    return new ForwardingDisk(disk) {
      @Override
      public boolean cloneTo(Path from, Path to) throws IOException {
        Files.copy(from, to);
        return true;
      }
    };
  }

  @Test
  void aCloneGuardsEvenWhatIsOverwrittenInPlaceRightAway() throws IOException {
    watching(cloning());
    write(slot(1), model(20));
    looks(2);
    write(slot(1), model(21));
    wait(LOOK);
    asWritten.tick(project, true, false);
    wait(LOOK);
    asWritten.tick(project, true, false);
    Files.delete(slot(1));
    looks(2);
    assertThat(kept()).extracting(this::bytes).containsExactly(model(20), model(21));
    assertThat(asWritten.last(DOCUMENT))
        .hasValueSatisfying(k -> assertThat(k.guard()).isEqualTo(AsWritten.Guard.CLONE));
    assertThat(retained()).isEmpty();
  }
}
