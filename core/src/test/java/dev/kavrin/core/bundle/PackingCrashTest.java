package dev.kavrin.core.bundle;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.CrashDisk;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FolderKind;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.StageName;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Random;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * The power goes at every step of packing an archive: what was packed stays as it was, the same
 * order goes on into the same folder, and everything comes back bit for bit.
 */
class PackingCrashTest {
  private static final Path WORK = Path.of("/tarnwick/carriage");
  private static final Path BAG = Path.of("/shelf/carriage");
  private static final double[] SURVIVE = {0, 0.5, 1};

  private final CrashDisk disk = new CrashDisk();
  private final Map<String, ContentId> originals = new LinkedHashMap<>();

  @BeforeEach
  void work() throws IOException {
    Random random = new Random(20311111);
    byte[] noise = new byte[3000];
    random.nextBytes(noise);
    disk.makeFolders(WORK.resolve("pictures"));
    disk.makeFolders(BAG);
    Publisher publisher = new Publisher(disk, "n");
    put(publisher, "carriage-02.glb", noise);
    put(publisher, "notes.txt", "lang\n".repeat(900).getBytes(StandardCharsets.UTF_8));
    put(publisher, "pictures/empty.png", new byte[0]);
  }

  private void put(Publisher publisher, String name, byte[] bytes) throws IOException {
    Path file = WORK.resolve(name);
    publisher.publish(file, sink -> sink.write(bytes, 0, bytes.length), PublishCheck.NONE);
    originals.put(name, publisher.identify(file));
  }

  private Archive.Order order() {
    return new Archive.Order(
        originals.keySet().stream()
            .map(name -> new Archive.Source(WORK.resolve(name), name))
            .toList(),
        Map.of("README.txt", "What this is.\n"),
        Map.of(),
        LocalDate.of(2031, 11, 11));
  }

  private static Archive archive(Disk disk) {
    return new Archive(disk, new Publisher(disk, "n"));
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void theSameOrderGoesOnAfterAnyStepTheMachineStoppedAt(FolderKind kind) throws IOException {
    int before = disk.steps();
    archive(kind.over(disk)).write(order(), BAG, bytes -> {});
    int after = disk.steps();
    assertThat(after).isGreaterThan(before + 20);
    Random random = new Random(7);
    for (int step = before; step <= after; step++) {
      for (double chance : SURVIVE) {
        Disk left = kind.over(disk.after(step, random, chance));
        Archive.Made made = archive(left).write(order(), BAG, bytes -> {});
        assertThat(made.files()).isEqualTo(originals.size());
        assertThat(new BagCheck(left).of(BAG).isValid()).as("step %s, %s", step, chance).isTrue();
        assertThat(left.list(BAG.resolve("data"))).noneMatch(StageName::is);
        Path back = Path.of("/back");
        left.makeFolders(back);
        archive(left).bringBack(BAG, back, UnaryOperator.identity(), bytes -> {});
        for (Map.Entry<String, ContentId> one : originals.entrySet()) {
          for (Path root : new Path[] {WORK, back}) {
            assertThat(new Publisher(left, "n").identify(root.resolve(one.getKey())))
                .isEqualTo(one.getValue());
          }
        }
      }
    }
  }

  @Test
  void nothingIsPackedIntoAFolderWithOtherFiles() throws IOException {
    Publisher publisher = new Publisher(disk, "n");
    publisher.publish(
        BAG.resolve("letter.txt"), sink -> sink.write(new byte[] {1}, 0, 1), PublishCheck.NONE);
    int before = disk.steps();
    assertThatThrownBy(() -> archive(disk).write(order(), BAG, bytes -> {}))
        .hasMessageContaining("holds other files, such as letter.txt")
        .hasMessageContaining("Nothing was touched");
    assertThat(disk.steps()).isEqualTo(before);
  }
}
