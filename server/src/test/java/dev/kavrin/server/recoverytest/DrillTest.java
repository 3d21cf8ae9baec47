package dev.kavrin.server.recoverytest;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Proof;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.recoverytest.FailureMode;
import dev.kavrin.core.recoverytest.RecoveryTest;
import dev.kavrin.core.recoverytest.TestCase;
import dev.kavrin.standin.ActingProgram;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What comes back of a drill is what replay says, and no more is lost than the plan promises. */
class DrillTest {
  private static final Instant BEGIN = Instant.parse("2031-03-03T09:00:00Z");

  @TempDir Path folder;

  private List<Path> states(int count) throws IOException {
    List<Path> states = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      GlbWriter writer = new GlbWriter();
      for (int part = 0; part <= i; part++) {
        MeshData mesh =
            new MeshData(new float[] {0, 0, 0, 1, 0, 0, 0, part + 1, 1}, new int[] {0, 1, 2});
        writer.mesh("part " + part, -1, mesh, null, null, -1);
      }
      Path file = folder.resolve("state-" + i + ".glb");
      Files.write(file, writer.bytes(Map.of()));
      states.add(file);
    }
    return states;
  }

  private static ProjectRecord project(Plan plan, boolean ownCopies) {
    ProgramProfile sheet =
        new ProgramProfile(
            "Tarn Modeller",
            "modeller",
            NamePattern.of(".{stem}.open"),
            null,
            ownCopies
                ? List.of(
                    ProgramProfile.Leftover.of(CopyKind.AUTOSAVE, ".drafts", "{stem}~{n}.tmp"))
                : List.of(),
            null);
    return ProjectRecord.of(
        UUID.randomUUID(),
        "Carriage",
        "carriage",
        "/work",
        List.of("*.glb"),
        sheet,
        plan,
        List.of("/keep"),
        "UTC");
  }

  private Proof drill(
      Plan plan, @Nullable Duration programWrites, FailureMode way, int states, String scratch)
      throws IOException {
    return drill(plan, programWrites, way, states(states), scratch);
  }

  private Proof drill(
      Plan plan,
      @Nullable Duration programWrites,
      FailureMode way,
      List<Path> states,
      String scratch)
      throws IOException {
    RealDisk disk = new RealDisk();
    TestCase drill =
        new TestCase(
            project(plan, programWrites != null),
            UUID.randomUUID(),
            "carriage-02.glb",
            states,
            way,
            programWrites);
    return new RecoveryTest(
            disk, new Publisher(disk, "node"), new HealthCheck(disk), ActingProgram::new)
        .of(
            drill,
            Files.createDirectory(folder.resolve(scratch)),
            BEGIN,
            (truth, restored) -> Files.mismatch(truth, restored) < 0 ? 0 : 1);
  }

  private static void check(Proof proof, String which) {
    assertThat(proof.actual()).as(which + proof).isNotNull();
    assertThat(proof.actual().minus(proof.predicted()).abs())
        .as(which + proof)
        .isLessThanOrEqualTo(Duration.ofSeconds(1));
    assertThat(proof.actual()).as(which).isLessThanOrEqualTo(proof.promised());
    assertThat(proof.held()).as(which + proof).isTrue();
  }

  @ParameterizedTest
  @EnumSource(FailureMode.class)
  void whatIsLostIsWhatReplaySaysAndWithinThePromise(FailureMode way) throws IOException {
    Random random = new Random(way.ordinal());
    for (int round = 0; round < (Boolean.getBoolean("kavrin.full") ? 20 : 4); round++) {
      int[] minutes = {1, 4, 12};
      Plan plan =
          Plan.every(
              Duration.ofMinutes(minutes[random.nextInt(minutes.length)]),
              Counts.newest(3),
              Duration.ofMinutes(30));
      Duration writes = Duration.ofMinutes(2 + random.nextInt(6));
      check(
          drill(plan, writes, way, 3 + random.nextInt(5), "own-" + round),
          "own copies, " + round + " ");
      if (way != FailureMode.MID_AUTOSAVE) {
        check(drill(plan, null, way, 3 + random.nextInt(5), "none-" + round), "none, " + round);
      }
    }
  }

  @Test
  void zerosAtTheEndAreSeenInModelsOfNumbersToo() throws IOException {
    List<Path> large = new ArrayList<>();
    for (int i = 0; i < 3; i++) {
      float[] points = new float[30_000];
      java.util.Arrays.fill(points, i + 1f);
      GlbWriter writer = new GlbWriter();
      writer.mesh("part", -1, new MeshData(points, new int[] {0, 1, 2}), null, null, -1);
      large.add(Files.write(folder.resolve("large-" + i), writer.bytes(Map.of())));
    }
    Plan plan = Plan.every(Duration.ofMinutes(4), Counts.newest(3), Duration.ofMinutes(30));
    check(drill(plan, Duration.ofMinutes(5), FailureMode.DAMAGED, large, "large"), "large");
  }

  @Test
  void aPlanWithoutTimedCopiesIsToldToFailWhenTheDriveGoes() throws IOException {
    Plan none = Plan.every(Duration.ZERO, Counts.newest(3), Duration.ofMinutes(30));
    Proof proof = drill(none, null, FailureMode.DRIVE_GONE, 4, "scratch");
    assertThat(proof.promised()).isNull();
    assertThat(proof.actual()).isGreaterThan(Duration.ofMinutes(30));
    assertThat(proof.parts()).isEqualTo(1);
  }
}
