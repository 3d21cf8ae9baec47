package dev.kavrin.core.disk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Files of others that are kept from being lost, and given up again without a trace. */
class RetainingTest {
  private static final Instant THEN = Instant.parse("2031-03-03T09:00:00Z");

  @TempDir private Path folder;

  private final RealDisk disk = new RealDisk();
  private Path file;
  private Path kept;

  @BeforeEach
  void aFile() throws IOException {
    file = Files.writeString(folder.resolve("carriage~1.tmp"), "whole");
    Files.setLastModifiedTime(file, FileTime.from(THEN));
    kept = folder.resolve(".kavrin/held/1/carriage~1.tmp");
  }

  private Publisher on(Disk some) {
    return new Publisher(some, "node");
  }

  @Test
  void aSecondNameOutlivesTheFirstAndIsGivenUpWithItsFolder() throws IOException {
    assertThat(on(disk).retain(file, kept)).isEqualTo(Publisher.Retained.NAMED);
    Files.delete(file);
    assertThat(kept).hasContent("whole");
    Path other = Files.writeString(kept.resolveSibling("other"), "stays");
    on(disk).release(kept);
    assertThat(other).exists();
    on(disk).release(other);
    assertThat(kept.getParent()).doesNotExist();
    assertThat(kept.getParent().getParent()).exists();
  }

  @Test
  void aCloneHasBytesOfItsOwnAndTheTimeOfTheOriginal() throws IOException {
    Disk cloning =
        new ForwardingDisk(disk) {
          @Override
          public boolean cloneTo(Path from, Path to) throws IOException {
            Files.copy(from, to);
            return true;
          }
        };
    assertThat(on(cloning).retain(file, kept)).isEqualTo(Publisher.Retained.CLONED);
    assertThat(Files.getLastModifiedTime(kept).toInstant()).isEqualTo(THEN);
    Files.writeString(file, "written over in place");
    assertThat(kept).hasContent("whole");
  }

  @Test
  void aNameThatIsTakenIsLeftAsItIs() throws IOException {
    Files.createDirectories(kept.getParent());
    Files.writeString(kept, "another");
    assertThatThrownBy(() -> on(disk).retain(file, kept))
        .isInstanceOf(FileAlreadyExistsException.class);
    assertThat(kept).hasContent("another");
    assertThat(file).hasContent("whole");
  }

  @Test
  void whatVanishedLeavesNoFolderBehind() {
    assertThatThrownBy(() -> on(disk).retain(folder.resolve("gone"), kept))
        .isInstanceOf(NoSuchFileException.class);
    assertThat(kept.getParent()).doesNotExist();
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void whereItCannotBeNothingIsLeftAndTheFileStands(FolderKind kind) throws IOException {
    try {
      on(kind.over(disk)).retain(file, kept);
      assertThat(kept).hasContent("whole");
      on(kind.over(disk)).release(kept);
    } catch (IOException refused) {
      assertThat(kind.refuses(FolderKind.Refusal.LINK)).isTrue();
    }
    assertThat(kept.getParent()).doesNotExist();
    assertThat(file).hasContent("whole");
  }
}
