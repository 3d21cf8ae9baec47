package dev.kavrin.core.disk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A real folder whose calls do not return: a FAT image through FUSE whose driver is stopped by a
 * signal, as on a share that died. Only where the machine can mount one.
 */
class StoppedDriverTest {
  private static final Duration PATIENCE = Duration.ofSeconds(2);

  @TempDir private Path local;
  private Path share;
  private Optional<ProcessHandle> driver = Optional.empty();

  private static int run(String... command) throws IOException, InterruptedException {
    return new ProcessBuilder(command)
        .redirectErrorStream(true)
        .redirectOutput(ProcessBuilder.Redirect.DISCARD)
        .start()
        .waitFor();
  }

  private static boolean runs(String... command) throws InterruptedException {
    try {
      return run(command) == 0;
    } catch (IOException none) {
      return false;
    }
  }

  @BeforeEach
  void mount() throws Exception {
    Path image = local.resolve("share.img");
    share = Files.createDirectory(local.resolve("share"));
    assumeTrue(
        runs("truncate", "-s", "64M", image.toString())
            && runs("mkfs.vfat", image.toString())
            && runs("fusefat", "-o", "rw+", image.toString(), share.toString()),
        "no FAT image can be mounted here");
    driver = ProcessHandle.allProcesses().filter(p -> serves(p, share)).findFirst();
    assertThat(driver).isPresent();
  }

  /** By its arguments as the system tells them: the driver writes over its own. */
  private static boolean serves(ProcessHandle process, Path folder) {
    try {
      String line = Files.readString(Path.of("/proc", String.valueOf(process.pid()), "cmdline"));
      return line.startsWith("fusefat") && line.contains(folder.toString());
    } catch (IOException gone) {
      return false;
    }
  }

  @AfterEach
  void unmount() throws Exception {
    if (driver.isPresent()) {
      signal("CONT");
      assertThat(runs("umount", share.toString())).isTrue();
    }
  }

  private void signal(String name) throws IOException, InterruptedException {
    run("kill", "-" + name, String.valueOf(driver.orElseThrow().pid()));
  }

  /** A signal is delivered to each thread when it is next run: until then the driver answers. */
  private boolean allThreadsStand() throws IOException {
    Path tasks = Path.of("/proc", String.valueOf(driver.orElseThrow().pid()), "task");
    try (DirectoryStream<Path> threads = Files.newDirectoryStream(tasks)) {
      for (Path thread : threads) {
        String state = Files.readString(thread.resolve("stat")).replaceFirst("^.*\\) ", "");
        if (!state.startsWith("T")) {
          return false;
        }
      }
    }
    return true;
  }

  @Test
  void itCostsOnlyItselfAndIsAskedAgainOnceItGoesOn() throws Exception {
    AnsweringDisk disk =
        new AnsweringDisk(
            new RealDisk(), p -> p.startsWith(share) ? share : p.getParent(), PATIENCE);
    Path there = share.resolve("PIER.GLB");
    Path here = Files.write(local.resolve("pier.glb"), new byte[] {1, 2, 3});
    Files.write(there, new byte[] {4, 5, 6});
    assertThat(disk.facts(there)).isPresent();

    signal("STOP");
    Awaitility.await().atMost(Duration.ofMinutes(1)).until(this::allThreadsStand);
    assertThatThrownBy(() -> disk.facts(share.resolve("NEVER.GLB")))
        .isInstanceOf(NotAnsweringException.class)
        .hasMessage(share + " is not answering");
    assertThat(disk.answers(there)).isFalse();
    assertThatThrownBy(() -> disk.list(share)).isInstanceOf(NotAnsweringException.class);
    assertThat(disk.facts(here)).isPresent();

    signal("CONT");
    Awaitility.await().atMost(Duration.ofMinutes(4)).until(() -> disk.answers(share));
    try (SeekableByteChannel in = disk.read(there)) {
      ByteBuffer bytes = ByteBuffer.allocate(3);
      assertThat(in.read(bytes)).isEqualTo(3);
      assertThat(bytes.array()).containsExactly(4, 5, 6);
    }
  }
}
