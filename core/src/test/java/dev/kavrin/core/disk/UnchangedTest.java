package dev.kavrin.core.disk;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A file that is rewritten while it is read tells nothing about what it held before. */
class UnchangedTest {
  private static final ContentId FIRST = ContentHash.of("first");
  private final Disk disk = new RealDisk();
  @TempDir Path root;
  private Path file;

  @BeforeEach
  void write() throws IOException {
    file = Files.write(root.resolve("carriage.glb"), "first".getBytes(UTF_8));
  }

  @Test
  void onlyWhatWasReadOfThatContentCounts() throws IOException {
    assertThat(Unchanged.read(disk, file, FIRST, Files::readString)).contains("first");
    AtomicInteger read = new AtomicInteger();
    assertThat(Unchanged.read(disk, file, ContentHash.of("other"), f -> read.incrementAndGet()))
        .isEmpty();
    assertThat(Unchanged.read(disk, root.resolve("gone"), FIRST, f -> read.incrementAndGet()))
        .isEmpty();
    assertThat(read).hasValue(0);
  }

  @Test
  void aWriteInTheMiddleMakesItTellNothing() throws IOException {
    assertThat(Unchanged.read(disk, file, FIRST, this::rewritten)).isEmpty();
    write();
    assertThat(
            Unchanged.read(
                disk,
                file,
                FIRST,
                f -> {
                  rewritten(f);
                  throw new IOException("torn");
                }))
        .isEmpty();
    write();
    assertThatThrownBy(
            () ->
                Unchanged.read(
                    disk,
                    file,
                    FIRST,
                    f -> {
                      throw new IOException("unreadable");
                    }))
        .hasMessage("unreadable");
  }

  private String rewritten(Path f) throws IOException {
    Files.write(f, "xxxxx".getBytes(UTF_8));
    Files.setLastModifiedTime(f, java.nio.file.attribute.FileTime.fromMillis(1));
    return "torn";
  }
}
