package dev.kavrin.core.version;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.chunk.Sketch;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.profile.ProgramProfile.Leftover;
import dev.kavrin.core.watch.NeverSaved;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.AlphaChars;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Whose copy a file is, where several documents could claim it. */
class BelongingTest {
  @TempDir Path root;
  private Path shared;
  private Path work;

  @BeforeEach
  void folders() throws IOException {
    shared = Files.createDirectories(root.resolve("autosaves"));
    work = Files.createDirectories(root.resolve("incline"));
  }

  private ProgramProfile program(String pattern) {
    return new ProgramProfile(
        "Tarn Modeller",
        "tarn",
        null,
        null,
        List.of(Leftover.of(CopyKind.AUTOSAVE, shared.toString(), pattern)),
        null);
  }

  private ProjectRecord project(String pattern) {
    Plan plan = Plan.every(Duration.ofMinutes(10), Counts.newest(3), Duration.ofMinutes(15));
    return ProjectRecord.of(
        new UUID(3, 3),
        "Incline",
        "incline",
        work.toString(),
        List.of("*.glb"),
        program(pattern),
        plan,
        List.of(root.resolve("keep").toString()),
        "UTC");
  }

  /** One folder for the autosaves of all that a person works on is common practice, no source. */
  @Test
  void anotherDocumentsAutosaveIsNoWorkThatWasNeverSaved() throws IOException {
    Path gear = work.resolve("gear_2.glb");
    Path sheet = root.resolve("sheets/station_a.dxf");
    for (String name :
        List.of("gear_2_a.glb", "station_a_1.dxf", "survey_x.las", "winch_1.glb", "winch_2.GLB")) {
      Files.writeString(shared.resolve(name), name);
    }
    Set<Path> documents = Set.of(gear, sheet);
    assertThat(NeverSaved.look(new RealDisk(), project("{stem}_{any}.{ext}"), documents))
        .containsExactly("winch.glb");
  }

  @Property(tries = 200)
  void theLongerNameThatFitsHasTheCopy(
      @ForAll @AlphaChars @StringLength(min = 1, max = 6) String shorter,
      @ForAll @AlphaChars @StringLength(min = 1, max = 6) String more,
      @ForAll @AlphaChars @StringLength(max = 4) String any) {
    Leftover rule = Leftover.of(CopyKind.AUTOSAVE, "/autosaves", "{stem}_{any}.{ext}");
    Path brief = Path.of("/w/" + shorter + ".glb");
    Path full = Path.of("/w/" + shorter + "_" + more + ".glb");
    String copy = shorter + "_" + more + "_" + any + ".glb";
    List<Path> both = List.of(brief, full);
    assertThat(rule.isOf(copy, full, both)).isTrue();
    assertThat(rule.isOf(copy, brief, both)).isFalse();
    assertThat(rule.isOf(copy, brief, List.of(brief))).isTrue();
    assertThat(rule.isOf(copy.replace(".glb", ".dxf"), full, both)).isFalse();
    String own = shorter + "_" + any + ".glb";
    assertThat(rule.isOf(own, brief, both))
        .isEqualTo(!rule.fits(own, full.getFileName().toString()));
  }

  private static byte[] noise(long seed, int size) {
    byte[] bytes = new byte[size];
    new Random(seed).nextBytes(bytes);
    return bytes;
  }

  private static Sketch sketch(byte[] bytes) throws IOException {
    return Sketch.of(new ByteArrayInputStream(bytes));
  }

  private Optional<DocumentMatcher.Tie> tie(Path file, byte[] known, byte[] bytes)
      throws IOException {
    Path live = work.resolve("carriage.glb");
    DocumentMatcher.Subject subject =
        new DocumentMatcher.Subject(
            "d",
            live,
            work,
            List.of("*.glb"),
            ProgramProfile.UNKNOWN,
            List.of(sketch(known)),
            Set.of());
    return new DocumentMatcher(new RealDisk(), List.of(subject))
        .of(new DocumentMatcher.Stranger(file, sketch(bytes), Set.of()));
  }

  /** The same few bytes at the beginning make no copy of a file that lies in another project. */
  @Test
  void aNamesakeElsewhereIsAskedAbout() throws IOException {
    byte[] own = noise(1, 400_000);
    byte[] namesake = noise(2, 400_000);
    System.arraycopy(own, 0, namesake, 0, 40_000);
    Path elsewhere = root.resolve("winch/carriage.bak");
    assertThat(tie(elsewhere, own, namesake)).map(DocumentMatcher.Tie::sure).contains(false);
    assertThat(tie(elsewhere, own, noise(3, 400_000))).isEmpty();
    assertThat(tie(elsewhere, own, own)).map(DocumentMatcher.Tie::sure).contains(true);
    assertThat(tie(work.resolve("old/carriage.bak"), own, namesake))
        .map(DocumentMatcher.Tie::sure)
        .contains(true);
  }

  /** What lies in a hidden folder is no document, whatever it is called. */
  @Test
  void aDamagedCopyInAHiddenFolderIsTied() throws IOException {
    byte[] own = noise(1, 400_000);
    byte[] damaged = own.clone();
    Arrays.fill(damaged, 150_000, 260_000, (byte) 0);
    for (String name : List.of(".parked/carriage.glb", ".parked/session-7.glb", ".c1.glb")) {
      assertThat(tie(work.resolve(name), own, damaged)).as(name).isPresent();
    }
    assertThat(tie(work.resolve("parked/session-7.glb"), own, damaged)).isEmpty();
  }

  /** Snapshots keep names and places; that a folder's name is its time is common practice. */
  @Test
  void aSnapshotOfTheFolderHoldsEarlierVersionsAndANamesakeElsewhereIsNone() throws IOException {
    byte[] own = noise(1, 400_000);
    byte[] earlier = noise(2, 400_000);
    System.arraycopy(own, 0, earlier, 0, 40_000);
    for (String name :
        List.of("snapshots/2031-03-03/incline", "incline/.snapshot/hourly.3/incline")) {
      Path file = root.resolve(name).resolve("carriage.glb");
      assertThat(tie(file, own, earlier)).map(DocumentMatcher.Tie::sure).as(name).contains(true);
      assertThat(tie(file, own, noise(3, 400_000)))
          .map(DocumentMatcher.Tie::sure)
          .as("nothing in common, %s", name)
          .contains(false);
    }
    Path namesake = root.resolve("winch/carriage.glb");
    assertThat(tie(namesake, own, noise(3, 400_000))).isEmpty();
    assertThat(tie(namesake, own, earlier)).map(DocumentMatcher.Tie::sure).contains(false);
    assertThat(tie(namesake, own, own)).map(DocumentMatcher.Tie::sure).contains(true);
  }
}
