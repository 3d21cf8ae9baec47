package dev.kavrin.server.backup;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.watch.FolderHours;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalTime;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Hours of places are kept in a file of their own, whatever befalls it. */
class WorkHoursTest {
  private static final Path SHELF = Path.of("/mnt/shelf");
  private static final InstantSource NOON =
      InstantSource.fixed(Instant.parse("2031-03-03T12:00:00Z"));

  @TempDir Path data;

  private WorkHours open() {
    return new WorkHours(data, ZoneOffset.UTC, NOON);
  }

  @Test
  void theLastWordAboutAPlaceHoldsAfterARestartEvenBehindATornLine() throws IOException {
    WorkHours hours = open();
    assertThat(hours.of(SHELF)).isEqualTo(FolderHours.ALWAYS);
    assertThat(hours.why(SHELF)).isEmpty();
    hours.set(SHELF, new FolderHours(null, null, 5_000_000));
    FolderHours night = new FolderHours(LocalTime.of(19, 0), LocalTime.of(7, 0), 1_000_000);
    hours.set(SHELF, night);
    Files.writeString(
        data.resolve("place-hours.jsonl"), "{\"place\":\"/mnt/she\n", StandardOpenOption.APPEND);
    WorkHours again = open();
    assertThat(again.of(SHELF)).isEqualTo(night);
    assertThat(again.why(SHELF)).hasValueSatisfying(w -> assertThat(w).contains("19:00 to 07:00"));
    assertThat(again.why(Path.of("/mnt/keep"))).isEmpty();
  }

  @Test
  void theRateOfTheInnermostPlaceHoldsForAFile() throws IOException {
    WorkHours hours = open();
    hours.set(SHELF, new FolderHours(null, null, 5_000_000));
    hours.set(SHELF.resolve("inner"), new FolderHours(null, null, 20_000));
    assertThat(hours.bytesPerSecond(SHELF.resolve("a.glb"))).isEqualTo(5_000_000);
    assertThat(hours.bytesPerSecond(SHELF.resolve("inner/b.glb"))).isEqualTo(20_000);
    assertThat(hours.bytesPerSecond(Path.of("/mnt/shelf-2/c.glb"))).isZero();
  }
}
