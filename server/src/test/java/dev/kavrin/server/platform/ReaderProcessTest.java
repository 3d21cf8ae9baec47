package dev.kavrin.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Whatever a reader does, the file it was asked about is not checked yet, and nothing else ends.
 */
class ReaderProcessTest {
  @TempDir private Path folder;
  private Path file;

  @BeforeEach
  void aFile() throws IOException {
    file = Files.writeString(folder.resolve("hull.stl"), "solid hull\nendsolid hull\n");
  }

  private HealthReport read(String... command) {
    try (ReaderProcess reader = new ReaderProcess(f -> 0, f -> Map.of(), List.of(command))) {
      HealthReport report = reader.inspect(file, "hull.stl");
      assertThat(reader.trouble()).isNotNull();
      return report;
    }
  }

  private static void assertNotYet(HealthReport report, String why) {
    assertThat(report.verdict()).isEqualTo(Verdict.NOT_CHECKED);
    assertThat(report.reason()).contains(why);
  }

  @Test
  void oneThatHangsIsEndedAfterItsTime() {
    assertNotYet(read("/bin/sh", "-c", "read line; exec tail -f /dev/null"), "took too long");
  }

  @Test
  void oneThatFloodsWithoutAnEndIsEndedBeforeItFillsTheMemory() {
    // On a busy machine its time ends before the flood is long enough to be one.
    assertThat(read("/bin/sh", "-c", "read line; exec tr '\\000' x < /dev/zero"))
        .satisfiesAnyOf(
            read -> assertNotYet(read, "has no end"),
            read -> assertNotYet(read, "reading took too long"));
  }

  @Test
  void oneThatAnswersSomethingElseIsNotBelieved() {
    assertNotYet(
        read("/bin/sh", "-c", "read line; echo '{\"number\":99}'; read line"), "out of turn");
  }

  @Test
  void oneThatAnswersNoJsonIsNotBelieved() {
    read("/bin/sh", "-c", "read line; echo intact; read line");
    assertThat(read("/bin/sh", "-c", "read line; echo intact; read line").verdict())
        .isEqualTo(Verdict.NOT_CHECKED);
  }

  @Test
  void oneThatEndsIsStartedAnewForTheNextFile() {
    assertNotYet(read("/bin/true"), "");
    try (ReaderProcess reader = new ReaderProcess(f -> 0, f -> Map.of())) {
      assertThat(reader.inspect(file, "hull.stl").verdict()).isEqualTo(Verdict.INTACT);
      assertThat(reader.trouble()).isNull();
    }
  }

  /** On a machine that is busy with other things its answers come late, one after the other. */
  @Test
  void oneThatTellsHowFarItIsIsWaitedForByTheProcessorTimeItTakes() {
    String busy =
        "read line; echo '{\"number\":1,\"error\":\"not yet\"}'; read line;"
            + " for i in 1 2 3 4; do echo '{\"number\":2,\"share\":0.2}'; sleep 1; done;"
            + " echo '{\"number\":2,\"error\":\"at last\"}'; read line";
    try (ReaderProcess reader =
        new ReaderProcess(f -> 0, f -> Map.of(), List.of("/bin/sh", "-c", busy))) {
      assertNotYet(reader.inspect(file, "hull.stl"), "not yet");
      assertNotYet(reader.inspect(file, "hull.stl"), "at last");
      assertThat(reader.trouble()).isNull();
    }
  }
}
