package dev.kavrin.core.retention;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.backup.BackupOrder.How;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A backup that could not be read when it was made is read again, and protects from then on. */
class RecheckTest extends EngineFixture {
  private static final int IN_VAIN = 3;

  private int asked;

  private BackupRecord only() {
    return recovery.history().captures(DOCUMENT).get(0);
  }

  private void later(Duration time) {
    now = now.plus(time);
    running = running.plus(time);
  }

  @Test
  void itIsAskedAgainEverMoreRarelyAndTheAnswerIsWrittenDown() throws IOException {
    Inspector hesitant =
        (file, name) ->
            ++asked <= IN_VAIN
                ? HealthReport.notYet("reading took too long")
                : new HealthReport(Verdict.INTACT, List.of(), Inventory.OPAQUE);
    write(live, model(1));
    later(Duration.ofMinutes(1));
    new BackupMaker(disk, publisher, hesitant, recoveries, this)
        .capture(BackupOrder.ofLive(project, DOCUMENT, live, "due", How.CAREFULLY));
    assertThat(only().verdict()).isEqualTo(Verdict.NOT_CHECKED);
    assertThat(only().protects()).isFalse();

    Recheck recheck = new Recheck(recoveries, hesitant, this);
    recheck.one();
    recheck.one();
    assertThat(asked).isEqualTo(2);
    later(Duration.ofSeconds(61));
    recheck.one();
    assertThat(asked).isEqualTo(3);
    later(Duration.ofSeconds(61));
    recheck.one();
    assertThat(asked).isEqualTo(3);
    later(Duration.ofSeconds(61));
    recheck.one();
    assertThat(only().verdict()).isEqualTo(Verdict.INTACT);
    assertThat(only().protects()).isTrue();

    BackupFolder reopened = BackupFolder.open(disk, recovery.root(), recovery.uuid(), "node");
    assertThat(reopened.history().captures(DOCUMENT)).allMatch(BackupRecord::protects);
    later(Duration.ofDays(1));
    recheck.one();
    assertThat(asked).isEqualTo(4);
  }
}
