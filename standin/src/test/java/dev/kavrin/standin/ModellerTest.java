package dev.kavrin.standin;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.MeshModel;
import de.javagl.jgltf.model.io.GltfModelReader;
import java.io.IOException;
import java.net.InetAddress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The modelling program behaves as its settings say, and writes what others can read. */
class ModellerTest {
  @TempDir private Path folder;

  private Instant now = Instant.parse("2031-03-03T09:00:00Z");
  private Path file;
  private Path settings;

  @BeforeEach
  void aModel() throws IOException {
    file = folder.resolve("carriage-02.glb");
    settings = folder.resolve("modeller.properties");
    Scene scene = new Scene();
    scene.put("Frame", "Body", Shapes.box(2, 1, 1, 8));
    scene.put("Door", "Body", Shapes.moved(Shapes.box(0.8, 1, 0.1, 4), 1, 0, 0));
    Files.write(file, scene.toGlb());
  }

  private Modeller opened(String... says) throws IOException {
    Files.writeString(settings, String.join("\n", says));
    return new Modeller(file, settings, () -> now);
  }

  private Path slot(int n) {
    return folder.resolve(".drafts/carriage-02~" + n + ".tmp");
  }

  private List<String> drafts() throws IOException {
    try (Stream<Path> all = Files.list(folder.resolve(".drafts"))) {
      return all.map(p -> p.getFileName().toString()).sorted().toList();
    }
  }

  private static Object key(Path path) throws IOException {
    return Files.getAttribute(path, "unix:ino");
  }

  /** Read by jgltf, which is not ours. */
  @Test
  void anotherLibraryReadsWhatItSaves() throws IOException {
    Modeller modeller = opened();
    modeller.scene().put("Bell", "Fittings", Shapes.box(0.3, 0.2, 0.2, 6));
    modeller.save();
    GltfModel read = new GltfModelReader().read(file.toUri());
    assertThat(read.getMeshModels()).extracting(MeshModel::getName).hasSize(3);
    assertThat(read.getNodeModels().stream().map(n -> n.getName()).toList())
        .contains("Frame", "Door", "Bell");
    assertThat(read.getMaterialModels()).isNotEmpty();
  }

  @Test
  void theSameSceneIsTheSameBytesWheneverItIsWritten() throws IOException {
    byte[] first = Scene.open(file).toGlb();
    now = now.plus(Duration.ofDays(400));
    assertThat(Scene.open(file).toGlb()).isEqualTo(first);
    assertThat(new GearModel().put("Winch", 7).toBytes())
        .isEqualTo(new GearModel().put("Winch", 7).toBytes())
        .isNotEqualTo(new GearModel().put("Winch", 8).toBytes());
  }

  @Test
  void aSaveKeepsWhatWasThereWithItsTime() throws IOException {
    byte[] before = Files.readAllBytes(file);
    Files.setLastModifiedTime(file, FileTime.from(now.minusSeconds(600)));
    Modeller modeller = opened();
    modeller.scene().remove("Door");
    modeller.save();
    Path earlier = folder.resolve("carriage-02.earlier");
    assertThat(earlier).hasBinaryContent(before);
    assertThat(Files.getLastModifiedTime(earlier).toInstant()).isEqualTo(now.minusSeconds(600));
    assertThat(Files.getLastModifiedTime(file).toInstant()).isEqualTo(now);
  }

  @Test
  void itsCopiesTurnInARingAndOnlyWhenSomethingChanged() throws IOException {
    Modeller modeller = opened("safety.minutes = 10", "safety.slots = 2");
    now = now.plus(Duration.ofHours(1));
    assertThat(modeller.copyIfDue()).as("nothing changed").isFalse();
    for (int n = 0; n < 3; n++) {
      modeller.scene().put("Part " + n, "Body", Shapes.box(1, 1, 1, 2));
      modeller.touched();
      assertThat(modeller.copyIfDue()).isTrue();
      modeller.touched();
      assertThat(modeller.copyIfDue()).as("too early").isFalse();
      now = now.plus(Duration.ofMinutes(10));
    }
    assertThat(drafts()).containsExactly("carriage-02~1.tmp", "carriage-02~2.tmp");
    assertThat(Scene.open(slot(1)).size()).isEqualTo(5);
    assertThat(Scene.open(slot(2)).size()).isEqualTo(4);
    assertThat(opened("safety.copies = false").copyIfDue()).isFalse();
  }

  @Test
  void aRingGoesOnWhereItStoodAtTheNextStart() throws IOException {
    opened("safety.slots = 3").copyNow();
    now = now.plusSeconds(60);
    Modeller again = opened("safety.slots = 3");
    again.copyNow();
    assertThat(drafts()).containsExactly("carriage-02~1.tmp", "carriage-02~2.tmp");
  }

  @Test
  void writtenAnewIsAnotherFileUnderTheNameWrittenOverIsTheSame() throws IOException {
    Modeller anew = opened("safety.slots = 1");
    anew.copyNow();
    Object first = key(slot(1));
    Path second = Files.createLink(folder.resolve("second-name"), slot(1));
    anew.copyNow();
    assertThat(key(slot(1))).isNotEqualTo(first);
    assertThat(key(second)).isEqualTo(first);
    Modeller over = opened("safety.slots = 1", "safety.over = true");
    Object stands = key(slot(1));
    over.copyNow();
    assertThat(key(slot(1))).isEqualTo(stands);
  }

  @Test
  void whenIdleMeansNotWhileSomebodyWorks() throws IOException {
    Modeller modeller = opened("safety.minutes = 0", "safety.idle = true");
    modeller.touched();
    assertThat(modeller.copyIfDue()).isFalse();
    now = now.plusMillis(900);
    modeller.touched();
    now = now.plusMillis(900);
    assertThat(modeller.copyIfDue()).isFalse();
    now = now.plusMillis(200);
    assertThat(modeller.copyIfDue()).isTrue();
  }

  @Test
  void atACloseTheLockFileGoesAndTheCopiesIfItSaysSo() throws IOException {
    Modeller keeps = opened();
    keeps.copyNow();
    Path lock = folder.resolve(".carriage-02.open");
    assertThat(lock).exists();
    keeps.close();
    assertThat(lock).doesNotExist();
    assertThat(slot(1)).exists();
    Modeller clears = opened("safety.clears = true");
    clears.writeRescue();
    clears.close();
    assertThat(drafts()).containsExactly("carriage-02.rescue");
  }

  @Test
  void aLockFileMayNameProcessMachineAndPerson() throws IOException {
    opened();
    assertThat(folder.resolve(".carriage-02.open")).hasContent("open");
    opened("lock.names = true");
    assertThat(Files.readAllLines(folder.resolve(".carriage-02.open")))
        .containsExactly(
            "pid " + ProcessHandle.current().pid(),
            "host " + InetAddress.getLocalHost().getHostName(),
            "user " + System.getProperty("user.name"));
  }

  @Test
  void dyingInTheMiddleOfASaveLeavesThatShareOfTheBytes() throws IOException {
    Modeller modeller = opened();
    long whole = modeller.scene().toGlb().length;
    modeller.dieWhileSaving(0.6);
    assertThat(Files.size(file)).isCloseTo((long) (whole * 0.6), within(1L));
    assertThat(folder.resolve("carriage-02.earlier")).exists();
    assertThat(folder.resolve(".carriage-02.open")).as("nobody took it along").exists();
  }
}
