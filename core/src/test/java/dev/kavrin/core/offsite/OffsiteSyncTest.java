package dev.kavrin.core.offsite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.chunk.Sha256;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.journal.StoreSet;
import dev.kavrin.core.keep.Counts;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.LocalTime;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is said to lie elsewhere does, whatever the store, the line or a kill does meanwhile. */
class OffsiteSyncTest extends OffsiteFixture {
  /** Whatever counts is there, byte for byte, and the journal there tells of it. */
  private void assertTrue() throws IOException {
    Map<String, BackupRecord> told =
        OffsiteJournal.read(store, BEGIN).history().captures(DOCUMENT).stream()
            .collect(Collectors.toMap(BackupRecord::path, b -> b));
    for (CopyElsewhere copy : copies()) {
      if (copy.counts()) {
        assertThat(store.objects.get(BEGIN + copy.object()))
            .satisfies(b -> assertThat(Sha256.of(b)).isEqualTo(copy.sha256()));
        assertThat(told).containsKey(copy.object());
      }
    }
  }

  @Test
  void theDigestIsTheOneOfTheStandard() {
    // FIPS 180-4, example "abc" of NIST's "SHA-256" computation examples.
    assertThat(Sha256.of("abc".getBytes(StandardCharsets.US_ASCII)))
        .isEqualTo("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
  }

  @Test
  void everyKeptVersionArrivesTheNewestFirst() throws IOException {
    work(1, 3);
    rounds(1);
    assertThat(counting()).isEqualTo(kept()).hasSize(3);
    assertTrue();
    List<String> files = store.puts.stream().filter(p -> p.contains("/files/")).toList();
    BackupRecord newest =
        captures().stream().max(Comparator.comparing(BackupRecord::sequence)).orElseThrow();
    assertThat(files.get(0)).endsWith(newest.path().substring("carriage/".length()));
    assertThat(sync.standing(project).get(0).waiting()).isEmpty();
    assertThat(sync.standing(project).get(0).problem()).isNull();
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void whatTheStoreCannotProveItHasIsReadBack(boolean proves) throws IOException {
    store.proves = proves;
    work(1, 3);
    rounds(1);
    List<String> sent = store.puts.stream().filter(p -> p.contains("/files/")).toList();
    assertThat(counting()).isEqualTo(kept()).hasSize(3);
    assertThat(store.gets.stream().filter(sent::contains)).hasSize(proves ? 0 : 3);
    assertTrue();
  }

  @Test
  void aStoreThatFailsAtAnyCallEndsUpWithTheSame() throws IOException {
    work(1, 3);
    int calls = calls();
    for (int at = 1; at <= calls; at++) {
      anew();
      store.failsAt = at;
      rounds(1);
      assertTrue();
      rounds(3);
      assertThat(counting()).as("failed at call %s", at).isEqualTo(kept());
      assertTrue();
    }
  }

  @Test
  void killedAtAnyCallItGoesOnAndSendsNothingTwice() throws IOException {
    work(1, 3);
    int calls = calls();
    for (int at = 1; at <= calls; at++) {
      anew();
      store.killsAt = at;
      try {
        rounds(1);
      } catch (UnsureStore.Killed killed) {
        assertTrue();
      }
      open();
      begin();
      rounds(2);
      assertThat(counting()).as("killed at call %s", at).isEqualTo(kept());
      assertTrue();
      assertThat(store.puts.stream().filter(p -> p.contains("/files/")))
          .as("killed at call %s", at)
          .hasSize(3);
    }
  }

  private int calls() throws IOException {
    anew();
    rounds(1);
    return store.calls;
  }

  /** Another, empty store in the place of the one before. */
  private void anew() throws IOException {
    for (StoreAddress former : new Elsewhere(recoveries.history()).stores(project.id())) {
      recoveries.record(new StoreSet(now, project.id(), "Ilse Quarn", former, false));
    }
    for (CopyElsewhere copy : copies()) {
      recoveries.record(copy.deleted(now));
    }
    store.objects.clear();
    store.puts.clear();
    store.calls = 0;
    store.failsAt = -1;
    store.killsAt = -1;
    wait(Duration.ofSeconds(1));
    set(address(StoreMark.ensure(store, now, null).id(), null));
    store.calls = 0;
    store.puts.clear();
    begin();
  }

  @Test
  void anObjectReplacedBehindOurBackIsToldAndSentAgainUnderAnotherName() throws IOException {
    work(1, 1);
    rounds(1);
    String object = BEGIN + copies().get(0).object();
    store.objects.put(object, new byte[620]);
    rounds(1);
    assertThat(counting()).hasSize(1);
    wait(Duration.ofDays(31));
    rounds(3);
    assertThat(copies())
        .anySatisfy(c -> assertThat(c.fault()).contains("is not what was sent"))
        .anySatisfy(c -> assertThat(c.counts()).isTrue());
    assertThat(store.objects.get(object)).isEqualTo(new byte[620]);
    assertTrue();
  }

  @Test
  void aNameThatIsTakenByOtherBytesIsLeftAlone() throws IOException {
    work(1, 1);
    String name = BEGIN + OffsiteLink.object(captures().get(0));
    store.objects.put(name, new byte[] {1, 2, 3});
    rounds(1);
    assertThat(counting()).isEqualTo(kept());
    assertThat(store.objects.get(name)).containsExactly(1, 2, 3);
    assertTrue();
  }

  @Test
  void aBackupThatHasRottenIsNotSentAndIsNoted() throws IOException {
    work(1, 2);
    BackupRecord first = captures().get(0);
    Path file = recovery.absolute(first.path());
    file.toFile().setWritable(true);
    byte[] bytes = Files.readAllBytes(file);
    bytes[100] ^= 1;
    Files.write(file, bytes);
    rounds(1);
    assertThat(counting()).hasSize(1);
    assertThat(recovery.history().isFaulty(first.path())).isTrue();
    assertTrue();
  }

  @Test
  void whatItsOwnRulesNoLongerKeepGoesAfterTheTimeOfTheBin() throws IOException {
    UUID id = StoreMark.read(store).orElseThrow().id();
    work(1, 2);
    rounds(1);
    wait(Duration.ofSeconds(1));
    set(address(id, Counts.newest(1)));
    rounds(2);
    assertThat(copies()).hasSize(2);
    assertThat(copies().stream().filter(c -> c.leaving() != null)).hasSize(1);
    wait(Duration.ofDays(15));
    rounds(1);
    assertThat(copies()).hasSize(1);
    assertThat(copies().get(0).leaving()).isNull();
    assertThat(store.objects.keySet().stream().filter(k -> k.contains("/files/"))).hasSize(1);
    assertThat(OffsiteJournal.read(store, BEGIN).history().captures(DOCUMENT)).hasSize(1);
  }

  @Test
  void aRefusedDeletionIsToldAndTheCopyStays() throws IOException {
    UUID id = StoreMark.read(store).orElseThrow().id();
    work(1, 2);
    rounds(1);
    store.objects.keySet().forEach(store.locked::add);
    wait(Duration.ofSeconds(1));
    set(address(id, Counts.newest(1)));
    rounds(2);
    wait(Duration.ofDays(15));
    rounds(3);
    assertThat(copies())
        .hasSize(2)
        .anySatisfy(c -> assertThat(c.refused()).isEqualTo("locked until 2032"));
    assertThat(counting()).hasSize(2);
    assertTrue();
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 100})
  void aListThatLeavesNamesOutHidesNothingAndHasNothingSentTwice(int unlisted) throws IOException {
    for (int n = 1; n <= 3; n++) {
      work(n, n);
      rounds(1);
    }
    List<String> sent = List.copyOf(store.puts);
    store.unlisted = unlisted;
    begin();
    work(4, 4);
    rounds(2);

    assertThat(counting()).containsAll(kept());
    assertThat(store.puts.stream().filter(p -> p.contains("/files/")))
        .hasSize((int) sent.stream().filter(p -> p.contains("/files/")).count() + 1)
        .doesNotHaveDuplicates();
    assertTrue();
  }

  @Test
  void aPieceOfItsJournalThatIsGoneIsToldOfAndWrittenAgain() throws IOException {
    for (int n = 1; n <= 3; n++) {
      work(n, n);
      rounds(1);
    }
    String second = BEGIN + OffsiteJournal.FOLDER + "00000002.jsonl";
    assertThat(store.objects.remove(second)).isNotNull();
    assertThat(OffsiteJournal.read(store, BEGIN).lacking()).containsExactly(second);
    begin();
    work(4, 4);
    rounds(2);

    assertThat(OffsiteJournal.read(store, BEGIN).history().captures(DOCUMENT))
        .extracting(c -> c.content().toString())
        .containsAll(kept());
    assertThat(counting()).containsAll(kept());
    assertTrue();
  }

  @Test
  void anEmptyMountPointOrAnotherStoreTakesNothing() throws IOException {
    work(1, 1);
    store.objects.clear();
    rounds(2);
    assertThat(store.objects).isEmpty();
    assertThat(sync.standing(project).get(0).problem()).contains("another store than it was");
    assertThat(sync.standing(project).get(0).waiting()).hasSize(1);
  }

  @Test
  void aStoreThatIsUnmountedWhileItIsConnectedTakesNothing() throws IOException {
    work(1, 1);
    rounds(1);
    Map<String, byte[]> mounted = new TreeMap<>(store.objects);
    store.objects.clear();
    work(2, 2);
    rounds(2);
    assertThat(store.objects).isEmpty();
    assertThat(sync.standing(project).get(0).problem()).contains("is not there");
    store.objects.putAll(mounted);
    rounds(2);
    assertThat(counting()).isEqualTo(kept()).hasSize(2);
    assertTrue();
  }

  @Test
  void aStoreThatIsAwayIsToldAndCaughtUpWhenItReturns() throws IOException {
    work(1, 1);
    store.away = true;
    rounds(2);
    assertThat(sync.standing(project).get(0).problem()).contains("no route");
    work(2, 3);
    store.away = false;
    rounds(2);
    assertThat(counting()).isEqualTo(kept());
    assertThat(sync.standing(project).get(0).problem()).isNull();
  }

  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void nothingIsSentWhilePausedOrOutsideItsHours(boolean paused) throws IOException {
    work(1, 1);
    StoreAddress usual = address(StoreMark.read(store).orElseThrow().id(), null);
    int hour = now.atZone(java.time.ZoneOffset.UTC).getHour();
    LocalTime from = LocalTime.of((hour + 6) % 24, 0);
    wait(Duration.ofSeconds(1));
    set(address(usual.id(), null, paused ? null : from, paused));
    int before = store.calls;
    rounds(3);
    assertThat(store.calls).isEqualTo(before);
    assertThat(sync.standing(project).get(0).problem())
        .isEqualTo(
            paused ? "paused by hand" : "outside its hours, " + from + " to " + from.plusHours(2));
    rounds(4);
    assertThat(counting()).hasSize(paused ? 0 : 1);
  }
}
