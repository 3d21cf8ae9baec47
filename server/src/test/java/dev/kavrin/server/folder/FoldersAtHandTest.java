package dev.kavrin.server.folder;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** What is at hand is never older than what was written. */
class FoldersAtHandTest {
  private final List<Folder> records = new ArrayList<>();
  private int readings;
  private final FoldersAtHand atHand =
      new FoldersAtHand(
          () -> {
            readings++;
            return List.copyOf(records);
          });

  @AfterEach
  void end() {
    TransactionSynchronizationManager.clear();
  }

  private void write(String path) {
    long key = records.size() + 1L;
    records.add(new Folder(key, new UUID(1, key), Path.of(path), FolderRole.WORK, "node"));
    atHand.changed();
  }

  private List<String> paths() {
    return atHand.get().stream().map(f -> f.path().toString()).toList();
  }

  @Test
  void whatDidNotChangeIsReadOnce() {
    write("/work");
    for (int n = 0; n < 100; n++) {
      assertThat(paths()).containsExactly("/work");
    }
    assertThat(readings).isLessThan(10);
  }

  @Test
  void whatWasWrittenIsSeenAtOnce() {
    for (int n = 0; n < 20; n++) {
      write("/work-" + n);
      assertThat(paths()).hasSize(n + 1);
    }
  }

  /**
   * In its own transaction a write is seen before it stands; others must not keep what they saw.
   */
  @Test
  void aTransactionSeesItsOwnWritesAndItsEndIsSeenByAll() {
    write("/before");
    assertThat(paths()).hasSize(1);
    TransactionSynchronizationManager.initSynchronization();
    TransactionSynchronizationManager.setActualTransactionActive(true);
    write("/within");
    assertThat(paths()).containsExactly("/before", "/within");
    int before = readings;
    assertThat(paths()).hasSize(2);
    assertThat(readings).as("nothing of a transaction is kept").isEqualTo(before + 1);

    List<TransactionSynchronization> ends = TransactionSynchronizationManager.getSynchronizations();
    TransactionSynchronizationManager.clear();
    assertThat(paths()).hasSize(2);
    records.remove(1);
    ends.forEach(e -> e.afterCompletion(TransactionSynchronization.STATUS_ROLLED_BACK));
    assertThat(paths()).as("taken back").containsExactly("/before");
  }
}
