package dev.kavrin.core.compact;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.disk.StageName;
import dev.kavrin.core.journal.BackupRecord;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The process that compacts, killed at any moment: what was told to stand stands, whole. */
class KilledCompactingTest {
  private static final int KILLS =
      Boolean.getBoolean("kavrin.long") ? 200 : Boolean.getBoolean("kavrin.full") ? 60 : 20;

  @TempDir Path temp;

  @Test
  void noVersionIsEverLost() throws Exception {
    Path root = temp.resolve("keep");
    Shelf.fresh(new RealDisk(), root);
    Random random = new Random(11);
    int compacted = 0;
    for (int kill = 0; kill < KILLS; kill++) {
      String newest = killed(root, kill, random.nextInt(9), random.nextInt(100));
      Shelf left = Shelf.again(new RealDisk(), root);
      left.requireWhole();
      assertThat(left.files()).as("kill %s", kill).noneMatch(StageName::is);
      List<BackupRecord> standing = left.standing();
      if (newest != null) {
        assertThat(standing).anyMatch(b -> b.content().toString().equals(newest));
      }
      compacted +=
          (int) standing.stream().filter(b -> left.folder.history().isCompacted(b.path())).count();
      left.cleanup.clean(left.folder);
      left.requireWhole();
    }
    assertThat(compacted).isPositive();
  }

  /**
   * What it told last to be backed up; null for nothing. It is killed by what it told, and some
   * milliseconds on: by the clock alone a busy machine would kill it before it compacts.
   */
  private String killed(Path root, int seed, int told, int after)
      throws IOException, InterruptedException {
    Path said = temp.resolve("said-" + seed);
    Process process =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-cp",
                System.getProperty("java.class.path"),
                CompactingProcess.class.getName(),
                root.toString(),
                String.valueOf(seed))
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .redirectOutput(said.toFile())
            .start();
    try {
      while (lines(said) < 1 + told) {
        assertThat(process.waitFor(3, TimeUnit.MILLISECONDS)).as("it ended").isFalse();
      }
      process.waitFor(after, TimeUnit.MILLISECONDS);
    } finally {
      process.destroyForcibly().waitFor();
    }
    return Files.readAllLines(said).stream()
        .filter(l -> l.matches("\\d+-[0-9a-f]{32}"))
        .reduce((older, newer) -> newer)
        .orElse(null);
  }

  private static long lines(Path said) throws IOException {
    return Files.readString(said).chars().filter(c -> c == '\n').count();
  }
}
