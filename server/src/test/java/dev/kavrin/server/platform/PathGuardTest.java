package dev.kavrin.server.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.disk.RealDisk;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Every path from outside: where it may lead, and what may be put there. */
class PathGuardTest {
  @TempDir private Path temp;
  private Path root;
  private Path elsewhere;
  private PathGuard guard;

  @BeforeEach
  void aRootAndAWorldOutsideIt() throws IOException {
    Path base = temp.toRealPath();
    root = Files.createDirectories(base.resolve("works"));
    elsewhere = Files.createDirectories(base.resolve("elsewhere"));
    Files.createDirectories(root.resolve("harbour"));
    Files.createDirectories(root.resolve("keep/.kavrin/bin"));
    guard = new PathGuard(List.of(root), new RealDisk());
    guard.takesBackups(root.resolve("keep"));
  }

  private void assertRefused(
      String code, org.assertj.core.api.ThrowableAssert.ThrowingCallable asked) {
    assertThatThrownBy(asked)
        .isInstanceOfSatisfying(
            ProblemException.class, p -> assertThat(p.code()).as(p.getMessage()).isEqualTo(code));
  }

  @ParameterizedTest
  @ValueSource(strings = {"/harbour/../../elsewhere", "/..", "/harbour/./../../elsewhere"})
  void noWayUpLeadsOut(String way) {
    assertRefused("outside-roots", () -> guard.folder(root + way));
    assertRefused("outside-roots", () -> guard.target(root + way));
    assertThat(guard.allows(Path.of(root + way))).isFalse();
  }

  @ParameterizedTest
  @ValueSource(strings = {"/", "/etc", "/proc/self", "/dev"})
  void theSystemsOwnFoldersAreOutside(String folder) {
    assertRefused("outside-roots", () -> guard.folder(folder));
  }

  @Test
  void aNameThatOnlyBeginsLikeARootIsOutside() throws IOException {
    Files.createDirectories(Path.of(root + "-2"));
    assertRefused("outside-roots", () -> guard.folder(root + "-2"));
  }

  @Test
  void aLinkCountsAsWhereItLeads() throws IOException {
    Files.createSymbolicLink(root.resolve("way-out"), elsewhere);
    Files.createSymbolicLink(root.resolve("way-in"), root.resolve("harbour"));
    assertRefused("outside-roots", () -> guard.folder(root + "/way-out"));
    assertRefused("outside-roots", () -> guard.target(root + "/way-out/new"));
    assertRefused("outside-roots", () -> guard.inside(root, "way-out/pier.glb"));
    assertThat(guard.folder(root + "/way-in")).isEqualTo(root.resolve("harbour"));
  }

  @Test
  void aLinkThatLeadsNowhereIsToldAndNotFollowed() throws IOException {
    Files.createSymbolicLink(root.resolve("gone"), elsewhere.resolve("never"));
    assertRefused("path-broken", () -> guard.folder(root + "/gone"));
  }

  @Test
  void aFolderSwappedForALinkMidWayIsRefusedAtTheNextUse() throws IOException {
    Path yard = Files.createDirectories(root.resolve("yard"));
    assertThat(guard.inside(yard, "pier.glb")).isEqualTo(yard.resolve("pier.glb"));
    Files.delete(yard);
    Files.createSymbolicLink(yard, elsewhere);
    assertRefused("outside-roots", () -> guard.inside(yard, "pier.glb"));
    assertRefused("outside-roots", () -> guard.folder(yard.toString()));
  }

  @Test
  void nothingIsPutWhereBackupsLieNorInWhatIsOurs() throws IOException {
    Files.createSymbolicLink(root.resolve("same"), root.resolve("keep"));
    assertRefused("backup-folder", () -> guard.target(root + "/keep"));
    assertRefused("backup-folder", () -> guard.target(root + "/keep/new"));
    assertRefused("backup-folder", () -> guard.target(root + "/same/new"));
    assertRefused("own-folder", () -> guard.target(root + "/harbour/.kavrin/new"));
    assertThat(guard.target(root + "/harbour/new")).isEqualTo(root.resolve("harbour/new"));
    assertThat(guard.folder(root + "/keep")).isEqualTo(root.resolve("keep"));
  }

  @ParameterizedTest
  @ValueSource(strings = {"harbour", "", "~/works", "file:///etc"})
  void onlyWholePathsAreTaken(String text) {
    assertRefused("not-absolute", () -> guard.folder(text));
  }

  @Test
  void namesAreTakenAsTheyAre() throws IOException {
    for (String name :
        new String[] {"Brücke", "Bru\u0308cke", "橋", "a b", "\u202egnp.exe", "new\nline", "-rf"}) {
      Path folder = Files.createDirectories(root.resolve(name));
      assertThat(guard.folder(folder.toString())).isEqualTo(folder);
    }
    assertRefused("bad-path", () -> guard.folder(root + "/a\0b"));
  }

  @Test
  void aNameLongerThanAnyFolderTakesIsToldNotThrown() {
    String name = root + "/" + "x".repeat(300);
    assertThatThrownBy(() -> guard.folder(name)).isInstanceOf(ProblemException.class);
  }
}
