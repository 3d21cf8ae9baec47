package dev.kavrin.core.disk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFilePermissions;
import java.nio.file.attribute.UserDefinedFileAttributeView;
import java.time.Instant;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.EnumSource.Mode;

/** Whose a file is stays so when it is replaced, put aside and taken back. */
class OwnershipTest {
  private static final Instant SAVED = Instant.parse("2031-03-03T10:00:00Z");
  private static final String NOTE = "made-with";

  @TempDir Path folder;
  private final RealDisk disk = new RealDisk();
  private Path live;
  private Path aside;
  private Path source;

  @BeforeEach
  void files() throws IOException {
    live = Files.writeString(folder.resolve("carriage.glb"), "present");
    source = Files.writeString(folder.resolve("backup.glb"), "restored");
    aside = folder.resolve(".kavrin/aside/carriage-aside.glb");
    Files.setPosixFilePermissions(live, PosixFilePermissions.fromString("rw-r-----"));
    Files.setLastModifiedTime(live, FileTime.from(SAVED));
    attributes(live).write(NOTE, ByteBuffer.wrap("modeller 4".getBytes(StandardCharsets.UTF_8)));
  }

  private static UserDefinedFileAttributeView attributes(Path file) {
    return Files.getFileAttributeView(file, UserDefinedFileAttributeView.class);
  }

  private static String note(Path file) throws IOException {
    ByteBuffer value = ByteBuffer.allocate(attributes(file).size(NOTE));
    attributes(file).read(NOTE, value);
    return new String(value.array(), StandardCharsets.UTF_8);
  }

  private static boolean isRoot() {
    return System.getProperty("user.name").equals("root");
  }

  private void replace(FolderKind kind) throws IOException {
    Publisher publisher = new Publisher(kind.over(disk), "node");
    publisher.layReady(source, aside, PublishCheck.NONE);
    publisher.replace(live, aside);
    assertThat(live).hasContent("restored");
    assertThat(aside).hasContent("present");
  }

  @ParameterizedTest
  @EnumSource(
      value = FolderKind.class,
      mode = Mode.EXCLUDE,
      names = {"NO_PERMISSIONS", "MEMORY_CARD"})
  void modeTimeAndAttributesGoWithBoth(FolderKind kind) throws IOException {
    replace(kind);
    for (Path file : new Path[] {live, aside}) {
      assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
          .as(file + " on " + kind)
          .isEqualTo("rw-r-----");
      assertThat(note(file)).isEqualTo("modeller 4");
    }
    assertThat(Files.getLastModifiedTime(aside).toInstant()).isEqualTo(SAVED);
  }

  @ParameterizedTest
  @EnumSource(
      value = FolderKind.class,
      names = {"EVERYTHING", "NO_EXCHANGE", "NEITHER"})
  void ownerAndGroupGoWithBothWhereThisUserMayGiveThem(FolderKind kind) throws IOException {
    assumeTrue(isRoot(), "only the system's own user may give files away");
    var users = folder.getFileSystem().getUserPrincipalLookupService();
    PosixFileAttributeView view = Files.getFileAttributeView(live, PosixFileAttributeView.class);
    view.setOwner(users.lookupPrincipalByName("nobody"));
    view.setGroup(users.lookupPrincipalByGroupName("nogroup"));
    replace(kind);
    for (Path file : new Path[] {live, aside}) {
      assertThat(Files.getOwner(file).getName()).as(file + " on " + kind).isEqualTo("nobody");
    }
    assertThat(disk.cannotKeep(live)).isEmpty();
  }

  /** Said before anything is touched: this user is none who may give files away. */
  @Test
  void whatCannotBeKeptIsKnownBefore() throws IOException {
    Ownership anothers =
        new Ownership(
            () -> "ilse", null, PosixFilePermissions.fromString("rw-------"), java.util.Map.of());
    if (isRoot()) {
      assertThat(anothers.cannotKeep()).isEmpty();
    } else {
      assertThat(anothers.cannotKeep()).containsExactly("its owner (ilse)");
    }
    assertThat(Ownership.of(live).cannotKeep()).isEmpty();
  }

  @Test
  void whereNothingIsKeptItIsToldAndNothingFails() throws IOException {
    assertThat(FolderKind.NO_PERMISSIONS.over(disk).adoptOwnership(live, source))
        .containsExactly("its permissions");
    replace(FolderKind.MEMORY_CARD);
  }
}
