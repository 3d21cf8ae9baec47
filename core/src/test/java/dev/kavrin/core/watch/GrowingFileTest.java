package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.WholeLines;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** A file that one program lets grow for hours is copied by its whole lines so far. */
class GrowingFileTest extends EngineFixture {
  private static final UUID HISTORY = new UUID(9, 1);

  @Property(tries = 60)
  void theEndOfTheLastWholeLineIsFoundWhereverItLies(
      @ForAll @IntRange(max = 200_000) int before, @ForAll @IntRange(max = 200_000) int after)
      throws IOException {
    Path file = Files.createTempFile("lines", ".csv");
    byte[] bytes = new byte[before + 1 + after];
    Arrays.fill(bytes, (byte) 'x');
    bytes[before] = '\n';
    Files.write(file, bytes);
    try {
      var real = new dev.kavrin.core.disk.RealDisk();
      assertThat(WholeLines.end(real, file, bytes.length)).isEqualTo(before + 1);
      assertThat(WholeLines.end(real, file, before)).isZero();
      assertThat(Copying.identify(real, file, before + 1L))
          .isEqualTo(dev.kavrin.core.chunk.ContentHash.of(Arrays.copyOf(bytes, before + 1)));
    } finally {
      Files.delete(file);
    }
  }

  @Test
  void itsWholeLinesAreCopiedWhileItNeverRests() throws IOException {
    Path history = grows("heat.history.jsonl");
    for (int n = 1; n <= 400; n++) {
      append(history, "{\"step\":" + n + "}\n{\"st");
      pass(Duration.ofSeconds(15));
      append(history, "ep\":0}\n");
    }
    List<BackupRecord> copies = recovery.history().captures(HISTORY);
    assertThat(copies).hasSizeBetween(6, 9).allMatch(BackupRecord::settled);
    byte[] whole = Files.readAllBytes(history);
    for (BackupRecord copy : copies) {
      byte[] held = Files.readAllBytes(recovery.absolute(copy.path()));
      assertThat(copy.cause()).isEqualTo("while it grows");
      assertThat(held[held.length - 1]).isEqualTo((byte) '\n');
      assertThat(held).isEqualTo(Arrays.copyOf(whole, held.length));
    }
    pass(Duration.ofMinutes(15));
    List<BackupRecord> after = recovery.history().captures(HISTORY);
    assertThat(Files.readAllBytes(recovery.absolute(after.get(after.size() - 1).path())))
        .as("once it rests, all of it")
        .isEqualTo(whole);
  }

  private Path grows(String name) throws IOException {
    start(Plan.every(Duration.ofMinutes(10), Counts.newest(99), Duration.ofMinutes(15)), "keep");
    recoveries.record(new JournalEntry.DocumentSet(now, HISTORY, project.id(), name));
    watch.watch(HISTORY, name);
    return live.resolveSibling(name);
  }

  private void append(Path file, String text) throws IOException {
    Files.write(
        file,
        text.getBytes(StandardCharsets.UTF_8),
        StandardOpenOption.CREATE,
        StandardOpenOption.APPEND);
    Files.setLastModifiedTime(file, java.nio.file.attribute.FileTime.from(now));
  }
}
