package dev.kavrin.core.offsite;

import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.journal.StoreSet;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.LocalTime;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;

/** A project that is sent to a store in memory. */
abstract class OffsiteFixture extends EngineFixture {
  static final Duration HOUR = Duration.ofHours(1);
  static final String BEGIN = "carriage-00000000/";

  final UnsureStore store = new UnsureStore();
  OffsiteSync sync;

  @BeforeEach
  void connect() throws IOException {
    StoreMark mark = StoreMark.ensure(store, now, null);
    set(address(mark.id(), null));
    begin();
  }

  void begin() {
    sync = new OffsiteSync(disk, publisher, recoveries, address -> store, this);
  }

  static StoreAddress address(UUID id, Counts keep) {
    return address(id, keep, null, false);
  }

  /**
   * @param from hour at which two hours of sending begin; null for any time
   */
  static StoreAddress address(UUID id, Counts keep, LocalTime from, boolean paused) {
    return new StoreAddress(
        id,
        "Annex",
        "s3://annex",
        BEGIN,
        null,
        null,
        null,
        null,
        null,
        keep,
        from,
        from == null ? null : from.plusHours(2),
        0,
        paused,
        null);
  }

  void set(StoreAddress address) throws IOException {
    recoveries.record(new StoreSet(now, project.id(), "Ilse Quarn", address, true));
  }

  void work(int from, int to) throws IOException {
    for (int n = from; n <= to; n++) {
      write(live, model(n));
      pass(Duration.ofMinutes(11));
    }
  }

  void rounds(int count) {
    for (int i = 0; i < count; i++) {
      wait(HOUR);
      while (sync.tick(project)) {
        wait(Duration.ofSeconds(1));
      }
    }
  }

  List<CopyElsewhere> copies() {
    return copiesOf(DOCUMENT);
  }

  List<CopyElsewhere> copiesOf(UUID document) {
    return new Elsewhere(recoveries.history()).copies(document);
  }

  List<String> kept() {
    return captures().stream().map(b -> b.content().toString()).sorted().toList();
  }

  List<String> counting() {
    return copies().stream()
        .filter(CopyElsewhere::counts)
        .map(c -> c.content().toString())
        .sorted()
        .toList();
  }

  byte[] bytes(BackupRecord backup) {
    return read(recovery.absolute(backup.path()));
  }

  static byte[] read(Path file) {
    try {
      return Files.readAllBytes(file);
    } catch (IOException unreadable) {
      throw new AssertionError(unreadable);
    }
  }

  static void forget(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }
}
