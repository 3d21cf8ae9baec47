package dev.kavrin.core.compact;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.disk.CrashDisk;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FolderKind;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.disk.StageName;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.pack.DamagedPackException;
import dev.kavrin.core.plan.Compacting;
import dev.kavrin.core.retention.Scrub;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Versions put together from packs: whole under their names whatever happens. */
class CompactorTest {

  @TempDir Path temp;

  private Shelf shelf() throws IOException {
    return Shelf.fresh(new RealDisk(), temp.resolve("keep"));
  }

  /** Versions of one file, a stretch of each written anew, some longer, some shorter. */
  private static List<byte[]> versions(int count, int length, long seed) {
    Random random = new Random(seed);
    byte[] bytes = new byte[length];
    random.nextBytes(bytes);
    List<byte[]> all = new ArrayList<>();
    for (int n = 0; n < count; n++) {
      all.add(bytes);
      int from = random.nextInt(bytes.length);
      int cut = random.nextInt(length / 20);
      byte[] piece = new byte[random.nextInt(length / 20)];
      random.nextBytes(piece);
      byte[] next = new byte[from + piece.length + Math.max(0, bytes.length - from - cut)];
      System.arraycopy(bytes, 0, next, 0, from);
      System.arraycopy(piece, 0, next, from, piece.length);
      int rest = next.length - from - piece.length;
      System.arraycopy(bytes, bytes.length - rest, next, from + piece.length, rest);
      bytes = next;
    }
    return all;
  }

  private Shelf filled(Shelf shelf, int count, int length) throws IOException {
    for (byte[] bytes : versions(count, length, 7)) {
      shelf.add(bytes);
    }
    return shelf;
  }

  @Test
  void compactedVersionsAreReadUnderTheirNamesFromAnyPlace() throws IOException {
    Shelf shelf = filled(shelf(), 12, 400_000);
    List<BackupRecord> older = shelf.standing().subList(0, 10);

    Compactor.Outcome outcome = shelf.compact(older);

    assertThat(outcome.versions()).isEqualTo(10);
    assertThat(outcome.before())
        .isEqualTo(older.stream().mapToLong(b -> b.content().length()).sum());
    assertThat(outcome.after()).isLessThan(outcome.before() / 4);
    Random random = new Random(3);
    for (BackupRecord backup : older) {
      byte[] whole = shelf.written.get(backup.content());
      Path file = shelf.folder.absolute(backup.path());
      assertThat(Files.exists(file)).isFalse();
      assertThat(shelf.disk.facts(file).orElseThrow().size()).isEqualTo(whole.length);
      assertThat(shelf.disk.list(file.getParent())).contains(file);
      assertThat(shelf.read(backup)).isEqualTo(whole);
      try (SeekableByteChannel in = shelf.disk.read(file)) {
        for (int i = 0; i < 20; i++) {
          int at = random.nextInt(whole.length);
          ByteBuffer some = ByteBuffer.allocate(1 + random.nextInt(60_000));
          in.position(at).read(some);
          assertThat(Arrays.copyOf(some.array(), some.position()))
              .isEqualTo(Arrays.copyOfRange(whole, at, at + some.position()));
        }
        assertThat(in.position(whole.length).read(ByteBuffer.allocate(1))).isEqualTo(-1);
      }
    }
    shelf.requireWhole();
    assertThat(shelf.folder.history().bin()).hasSize(10).allMatch(History.Binned::stands);
    assertThat(older).allMatch(b -> shelf.folder.history().isCompacted(b.path()));
  }

  @Test
  void aCompactedVersionThatIsDroppedAndTakenBackIsTheSame() throws IOException {
    Shelf shelf = filled(shelf(), 4, 200_000);
    BackupRecord oldest = shelf.standing().get(0);
    shelf.compact(shelf.standing().subList(0, 2));

    shelf.drop(oldest);
    shelf.requireWhole();
    String bin =
        shelf.folder.history().bin().stream()
            .filter(b -> !b.stands())
            .map(History.Binned::bin)
            .findFirst()
            .orElseThrow();
    assertThat(shelf.disk.facts(shelf.folder.absolute(oldest.path()))).isEmpty();
    shelf.retention.takeBack(bin);

    assertThat(shelf.read(oldest)).isEqualTo(shelf.written.get(oldest.content()));
    shelf.requireWhole();
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void anyMixOfCompactingDroppingTakingBackAndClearingKeepsWhatIsKept(long seed)
      throws IOException {
    Shelf shelf = shelf();
    Random random = new Random(seed);
    List<byte[]> versions = versions(30, 150_000, seed);
    for (int step = 0, next = 0; step < 60; step++) {
      switch (random.nextInt(6)) {
        case 0, 1 -> {
          if (next < versions.size()) {
            shelf.add(versions.get(next++));
          }
        }
        case 2 -> {
          List<BackupRecord> due =
              Compactable.of(shelf.folder.history(), Shelf.DOCUMENT, new Compacting(true, 1, 5));
          shelf.compact(due.subList(0, random.nextInt(due.size() + 1)));
        }
        case 3 -> drop(shelf, random);
        case 4 -> {
          List<History.Binned> bin =
              shelf.folder.history().bin().stream().filter(b -> !b.stands()).toList();
          if (!bin.isEmpty()) {
            shelf.retention.takeBack(bin.get(random.nextInt(bin.size())).bin());
          }
        }
        default -> {
          if (random.nextInt(3) == 0) {
            shelf.now = shelf.now.plus(Duration.ofDays(20));
            shelf.retention.emptyBin();
          }
          shelf.cleanup.clean(shelf.folder);
        }
      }
      shelf.requireWhole();
    }
    Shelf after = Shelf.again(new RealDisk(), temp.resolve("keep"));
    assertThat(after.standing()).isEqualTo(shelf.standing());
    after.requireWhole();
  }

  private static void drop(Shelf shelf, Random random) throws IOException {
    List<BackupRecord> all = shelf.standing();
    if (all.size() > 2) {
      BackupRecord one = all.get(random.nextInt(all.size() - 1));
      shelf.drop(one);
    }
  }

  @Test
  void packsOfWhichLittleIsNeededAreClearedUp() throws IOException {
    Shelf shelf = filled(shelf(), 2, 300_000);
    byte[] other = versions(1, 2_000_000, 99).get(0);
    BackupRecord large = shelf.add(other);
    shelf.add(versions(1, 100_000, 5).get(0));
    shelf.compact(shelf.standing().subList(0, 3));
    long full = shelf.bytes(".pack");

    shelf.drop(large);
    assertThat(shelf.cleanup.clean(shelf.folder)).as("the bin still needs them").isZero();
    shelf.now = shelf.now.plus(Duration.ofDays(20));
    shelf.retention.emptyBin();

    assertThat(shelf.cleanup.clean(shelf.folder)).isEqualTo(full);
    assertThat(shelf.bytes(".pack")).isLessThan(full / 4);
    shelf.requireWhole();
    assertThat(shelf.cleanup.clean(shelf.folder)).as("a second time").isZero();
  }

  /** Two projects may share a folder: what one needs is not cleared away by the other. */
  @Test
  void aPackThatIsMadeMeanwhileIsNotClearedAway() throws Exception {
    AtomicReference<Runnable> meanwhile = new AtomicReference<>();
    Path packs = temp.resolve("keep/.kavrin/packs");
    Disk hooked =
        new ForwardingDisk(new RealDisk()) {
          @Override
          public List<Path> list(Path folder) throws IOException {
            Runnable once = folder.equals(packs) ? meanwhile.getAndSet(null) : null;
            if (once != null) {
              once.run();
            }
            return super.list(folder);
          }
        };
    Shelf shelf = filled(Shelf.fresh(hooked, temp.resolve("keep")), 6, 200_000);
    shelf.compact(shelf.standing().subList(0, 1));
    CompletableFuture<Compactor.Outcome> other = new CompletableFuture<>();
    Thread thread =
        new Thread(
            () -> {
              try {
                other.complete(shelf.compact(shelf.standing().subList(1, 5)));
              } catch (IOException failed) {
                other.completeExceptionally(failed);
              }
            });
    meanwhile.set(
        () -> {
          thread.start();
          await()
              .atMost(Duration.ofMinutes(4))
              .until(() -> other.isDone() || thread.getState() == Thread.State.WAITING);
        });

    shelf.cleanup.clean(shelf.folder);

    assertThat(other.get(4, TimeUnit.MINUTES).versions()).isEqualTo(4);
    shelf.now = shelf.now.plus(Duration.ofDays(20));
    shelf.retention.emptyBin();
    shelf.requireWhole();
  }

  @Test
  void aFlippedBitCostsExactlyTheVersionsThatNeedIt() throws IOException {
    Shelf shelf = filled(shelf(), 10, 300_000);
    shelf.compact(shelf.standing().subList(0, 4));
    shelf.compact(shelf.standing().subList(4, 9));
    Path pack =
        shelf.files().stream()
            .filter(p -> p.toString().endsWith(".pack"))
            .findFirst()
            .orElseThrow();
    byte[] bytes = Files.readAllBytes(pack);
    Random random = new Random(1);
    for (int flip = 0; flip < 12; flip++) {
      byte[] flipped = bytes.clone();
      flipped[random.nextInt(bytes.length)] ^= (byte) (1 << random.nextInt(8));
      Files.write(pack, flipped);
      Shelf fresh = Shelf.again(new RealDisk(), temp.resolve("keep"));
      Scrub scrub = new Scrub(fresh.disk, fresh.publisher, () -> fresh.now);
      for (BackupRecord backup : fresh.standing()) {
        byte[] whole = shelf.written.get(backup.content());
        byte[] read = null;
        try {
          read = fresh.read(backup);
        } catch (DamagedPackException told) {
          assertThat(told).hasMessageContaining("pack");
        }
        assertThat(read == null || Arrays.equals(read, whole)).as("none given out wrong").isTrue();
        assertThat(scrub.reread(fresh.folder, backup)).isEqualTo(read != null);
        assertThat(fresh.folder.history().isFaulty(backup.path())).isEqualTo(read == null);
      }
      assertThat(fresh.standing().get(9).verdict()).isEqualTo(Verdict.INTACT);
    }
    Files.write(pack, bytes);
    Shelf mended = Shelf.again(new RealDisk(), temp.resolve("keep"));
    mended.requireWhole();
  }

  /** What a rotten pack holds of them stays plain; it stops nothing else. */
  @Test
  void aDamagedPackLeavesWhatNeedsItAsPlainFiles() throws IOException {
    Shelf shelf = filled(shelf(), 5, 300_000);
    shelf.compact(shelf.standing().subList(0, 1));
    for (Path file : shelf.files()) {
      if (file.toString().endsWith(".pack")) {
        byte[] bytes = Files.readAllBytes(file);
        Arrays.fill(bytes, 0, bytes.length / 2, (byte) 7);
        Files.write(file, bytes);
      }
    }
    List<BackupRecord> others = shelf.standing().subList(1, 4);

    assertThat(shelf.compact(others).versions()).isZero();

    for (BackupRecord backup : others) {
      assertThat(Files.readAllBytes(shelf.folder.absolute(backup.path())))
          .isEqualTo(shelf.written.get(backup.content()));
    }
  }

  @Test
  void aRecipeThatLeadsElsewhereIsNone() throws IOException {
    Shelf shelf = filled(shelf(), 3, 200_000);
    BackupRecord oldest = shelf.standing().get(0);
    shelf.compact(List.of(oldest));
    Path recipe = CompactedDisk.recipeOf(shelf.folder.absolute(oldest.path()));
    String text = Files.readString(recipe);
    Path secret = Files.writeString(temp.resolve("secret"), "not for others");

    for (String pack : List.of("../secret", secret.toString(), ".kavrin/packs/../../secret")) {
      Files.writeString(recipe, text.replaceAll("\\.kavrin/packs/\\S+", pack));
      assertThatThrownBy(() -> shelf.read(oldest)).isInstanceOf(DamagedPackException.class);
    }
    Files.writeString(recipe, text);
    assertThat(shelf.read(oldest)).isEqualTo(shelf.written.get(oldest.content()));
  }

  /** Only a shell, {@code zstd} and {@code sha256sum}; nothing of ours but the script. */
  @Test
  void anybodyCanUnpackWithAShell() throws Exception {
    Shelf shelf = filled(shelf(), 6, 500_000);
    shelf.compact(shelf.standing().subList(0, 5));
    for (BackupRecord backup : shelf.standing().subList(0, 5)) {
      Path out = temp.resolve("out");
      assertThat(unpack(shelf, backup, out)).isZero();
      assertThat(Files.readAllBytes(out)).isEqualTo(shelf.written.get(backup.content()));
    }
    for (Path pack : shelf.files()) {
      if (pack.toString().endsWith(".pack")) {
        byte[] bytes = Files.readAllBytes(pack);
        bytes[bytes.length / 3] ^= 1;
        Files.write(pack, bytes);
      }
    }
    assertThat(unpack(shelf, shelf.standing().get(0), temp.resolve("broken"))).isNotZero();
  }

  private int unpack(Shelf shelf, BackupRecord backup, Path out) throws Exception {
    Process process =
        new ProcessBuilder(
                "sh",
                shelf.folder.root().resolve("unpack.sh").toString(),
                CompactedDisk.recipeOf(shelf.folder.absolute(backup.path())).toString())
            .redirectOutput(out.toFile())
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .start();
    assertThat(process.waitFor(240, TimeUnit.SECONDS)).isTrue();
    return process.exitValue();
  }

  /** RFC 8878: a pack is a whole Zstandard file, its index a frame that is skipped. */
  @Test
  void aPackIsAZstandardFile() throws Exception {
    Shelf shelf = filled(shelf(), 2, 300_000);
    BackupRecord oldest = shelf.standing().get(0);
    shelf.compact(List.of(oldest));
    Path pack =
        shelf.files().stream()
            .filter(p -> p.toString().endsWith(".pack"))
            .findFirst()
            .orElseThrow();
    Path out = temp.resolve("out");
    Process zstd =
        new ProcessBuilder("zstd", "-dcq", pack.toString()).redirectOutput(out.toFile()).start();
    assertThat(zstd.waitFor()).isZero();
    assertThat(Files.readAllBytes(out)).isEqualTo(shelf.written.get(oldest.content()));
  }

  @Test
  void theNewestAndOneOfEveryFewStayPlain() throws IOException {
    Shelf shelf = filled(shelf(), 23, 70_000);
    List<BackupRecord> all = shelf.standing();

    List<BackupRecord> due =
        Compactable.of(shelf.folder.history(), Shelf.DOCUMENT, new Compacting(true, 3, 5));

    assertThat(due).hasSize(16).doesNotContainAnyElementsOf(all.subList(20, 23));
    for (int i = 0; i + 5 <= 20; i++) {
      assertThat(due).as("from %s", i).doesNotContainSequence(all.subList(i, i + 5));
    }
    shelf.compact(due);
    assertThat(Compactable.of(shelf.folder.history(), Shelf.DOCUMENT, new Compacting(true, 3, 5)))
        .isEmpty();
  }

  /** 255 bytes, of which a dropped one's name in the bin and the recipe's ending take 44. */
  @Test
  void whatCouldNotBeDroppedByItsRecipeIsNotCompacted() throws IOException {
    BackupRecord backup = filled(shelf(), 1, 70_000).standing().get(0);
    assertThat(Compactor.fits(backup.at("carriage/" + "山".repeat(70)))).isTrue();
    assertThat(Compactor.fits(backup.at("carriage/" + "山".repeat(70) + "ab"))).isFalse();
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void aPowerCutAnywhereLosesNothing(FolderKind kind) throws IOException {
    Path root = Path.of("/keep");
    CrashDisk recorded = new CrashDisk();
    Shelf shelf = Shelf.fresh(kind.over(recorded), root);
    filled(shelf, 5, 90_000);
    int from = recorded.steps();
    List<BackupRecord> all = shelf.standing();
    shelf.compact(all.subList(0, 3));
    shelf.drop(all.get(0), all.get(1));
    int dropped = recorded.steps();
    shelf.now = shelf.now.plus(Duration.ofDays(20));
    shelf.retention.emptyBin();
    shelf.cleanup.clean(shelf.folder);
    shelf.requireWhole();
    for (int upTo = from; upTo <= recorded.steps(); upTo++) {
      for (CrashDisk cut : recorded.states(upTo)) {
        Shelf after = Shelf.again(kind.over(cut), root);
        after.requireWhole();
        assertThat(after.standing().stream().map(BackupRecord::content).toList())
            .as("after step %s", upTo)
            .containsAll(all.subList(2, 5).stream().map(BackupRecord::content).toList());
        if (upTo < dropped) {
          assertThat(after.standing().size() + after.folder.history().bin().size())
              .isGreaterThanOrEqualTo(5);
        }
        assertThat(after.files()).noneMatch(StageName::is);
        after.cleanup.clean(after.folder);
        after.requireWhole();
      }
    }
  }
}
