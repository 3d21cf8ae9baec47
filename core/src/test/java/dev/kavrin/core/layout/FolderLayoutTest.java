package dev.kavrin.core.layout;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.layout.FolderLayout.Misfiled;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What a layout makes and finds, on real folders. */
class FolderLayoutTest {
  @TempDir Path project;
  private final RealDisk disk = new RealDisk();

  private void file(String path) throws IOException {
    Files.createDirectories(project.resolve(path).getParent());
    Files.writeString(project.resolve(path), "x");
  }

  @Test
  void filesInTheWrongBranchAreListedAndNothingElse() throws IOException {
    file("carriage.glb");
    file("saves/carriage-02.glb");
    file("exports/old/carriage-01.glb");
    file("exports/carriage.obj");
    file("saves/notes.txt");
    file("my own things/deep.glb");
    file(".kavrin/aside/carriage-aside.glb");
    file("saves/exports-to-be.stl");
    FolderLayout layout = FolderLayout.parse(FolderLayout.STANDARD);
    assertThat(layout.misfiled(disk, project))
        .containsExactly(
            new Misfiled("carriage.glb", "saves"),
            new Misfiled("exports/old/carriage-01.glb", "saves"),
            new Misfiled("saves/exports-to-be.stl", "exports"));
    assertThat(layout.missing(disk, project))
        .containsExactly("sketches", "references", "trial-renders", "final-renders");
  }

  @Test
  void theFirstBranchThatFitsIsWhereAFileBelongs() throws IOException {
    file("lamp-trial-3.png");
    file("lamp-final.png");
    assertThat(FolderLayout.parse(FolderLayout.STANDARD).misfiled(disk, project))
        .containsExactly(
            new Misfiled("lamp-final.png", "final-renders"),
            new Misfiled("lamp-trial-3.png", "trial-renders"));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "../outside: *.glb",
        "/etc: *.glb",
        "saves/../../x: *.glb",
        "saves: *.glb\nsaves: *.obj",
        ": *.glb",
        ".kavrin: *.glb",
        "saves: [",
        "./saves: *"
      })
  void aLineThatLeavesTheProjectOrSaysNothingIsRefusedWithItsNumber(String text) {
    assertThatThrownBy(() -> FolderLayout.parse(text)).hasMessageStartingWith("Line ");
  }
}
