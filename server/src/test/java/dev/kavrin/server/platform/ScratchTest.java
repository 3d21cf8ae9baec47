package dev.kavrin.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a killed run left unfinished in a person's folder goes; all else there stays. */
class ScratchTest {
  @TempDir Path folder;
  private final RealDisk disk = new RealDisk();

  private Scratch scratch() {
    Settings settings =
        new Settings(
            folder.resolve("data"),
            0,
            List.of(),
            "",
            "",
            "",
            ZoneOffset.UTC,
            "me",
            null,
            List.of());
    return new Scratch(disk, new Publisher(disk, "ours"), settings);
  }

  private static Map<Path, byte[]> files(Path root) throws IOException {
    Map<Path, byte[]> files = new TreeMap<>();
    try (Stream<Path> all = Files.walk(root)) {
      for (Path file : all.filter(Files::isRegularFile).toList()) {
        files.put(root.relativize(file), Files.readAllBytes(file));
      }
    }
    return files;
  }

  @Test
  void onlyWhatThisMachineLeftUnfinishedGoes() throws IOException {
    Path shelf = Files.createDirectory(folder.resolve("shelf"));
    Files.writeString(shelf.resolve("letter.txt"), "Dear all");
    Path theirs =
        Files.writeString(shelf.resolve(".kavrin-stage-theirs-1.part"), "being written elsewhere");
    Path ours = shelf.resolve(".kavrin-stage-ours-1.part");
    Path root = folder.resolve("data/scratch");
    Map<Path, byte[]> atTheKill =
        scratch()
            .writing(
                shelf,
                0,
                aside -> {
                  Files.writeString(aside.resolve("half.obj"), "v 0 0");
                  Files.writeString(ours, "half a bundle");
                  return files(root);
                });
    assertThat(files(root)).isEmpty();
    for (Map.Entry<Path, byte[]> left : atTheKill.entrySet()) {
      Path file = root.resolve(left.getKey());
      Files.createDirectories(file.getParent());
      Files.write(file, left.getValue());
    }
    Path away = Files.move(shelf, folder.resolve("drive-unplugged"));
    scratch();
    assertThat(files(root)).as("the drive is away: it is kept in mind").hasSize(atTheKill.size());
    Files.move(away, shelf);
    scratch();
    assertThat(files(root)).isEmpty();
    assertThat(ours).doesNotExist();
    assertThat(theirs).exists();
    assertThat(shelf.resolve("letter.txt")).hasContent("Dear all");
  }
}
