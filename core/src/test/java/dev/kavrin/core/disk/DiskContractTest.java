package dev.kavrin.core.disk;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.google.common.jimfs.Configuration;
import com.google.common.jimfs.Jimfs;
import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.io.InputStream;
import java.lang.reflect.Proxy;
import java.nio.channels.Channels;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystem;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** One contract for every disk. */
class DiskContractTest {
  @Nested
  class Real extends Contract {
    @TempDir Path folder;

    @Override
    Disk disk() {
      return new RealDisk();
    }

    @Override
    Path root() {
      return folder;
    }

    @Test
    void doesNotFollowLinks() throws IOException {
      write("there", "kept");
      Files.createSymbolicLink(root().resolve("link"), root().resolve("there"));

      assertThat(disk().facts(root().resolve("link")).orElseThrow().kind())
          .isEqualTo(FileFacts.Kind.LINK);
      assertThatThrownBy(() -> disk().read(root().resolve("link"))).isInstanceOf(IOException.class);
    }
  }

  @Nested
  class InMemory extends Contract {
    private final CrashDisk disk = new CrashDisk();

    @Override
    Disk disk() throws IOException {
      disk.makeFolders(root());
      return disk;
    }

    @Override
    Path root() {
      return Path.of("/work");
    }
  }

  /** What another system's files are like, in memory (Jimfs, an independent file system). */
  abstract static class Foreign extends Contract {
    private final FileSystem system;
    private final Path root;

    Foreign(Configuration configuration, String root) {
      this.system = Jimfs.newFileSystem(configuration);
      this.root = system.getPath(root);
    }

    @AfterEach
    void close() throws IOException {
      system.close();
    }

    @Override
    Disk disk() throws IOException {
      Files.createDirectories(root);
      return new RealDisk();
    }

    @Override
    Path root() {
      return root;
    }

    @Override
    boolean exchanges() {
      return false;
    }

    /** Nothing is claimed of what the system does not tell. */
    @Test
    void whatCannotBeToldIsSaid() throws IOException {
      write("a", "x");
      Path file = root.resolve("a");
      assertThat(Volumes.of(file).disks(root)).isEmpty();
      assertThat(disk().device(file)).isEqualTo(disk().device(root)).isNotBlank();
      assertThat(disk().room(root)).isPositive().isLessThanOrEqualTo(disk().capacity(root));
      assertThat(disk().born(file)).isEmpty();
      assertThat(disk().holes(file)).isEmpty();
      assertThat(disk().cloneTo(file, root.resolve("b"))).isFalse();
      assertThat(disk().facts(root.resolve("b"))).isEmpty();
      assertThat(Permissions.of(file).opensToOthers(file)).isEqualTo(opensToOthers());
      disk().seal(file);
      disk().unlink(file);
      assertThat(disk().facts(file)).isEmpty();
    }

    abstract Optional<Boolean> opensToOthers();
  }

  @Nested
  class Windows extends Foreign {
    Windows() {
      super(Configuration.windows(), "C:\\work");
    }

    @Override
    Optional<Boolean> opensToOthers() {
      return Optional.empty();
    }

    @Test
    void whoseAFileIsIsNotToldAndSaidSo() throws IOException {
      write("live", "present");
      write("backup", "older");
      assertThat(disk().cannotKeep(root().resolve("live")))
          .singleElement()
          .asString()
          .contains("does not tell");
      assertThat(disk().adoptOwnership(root().resolve("live"), root().resolve("backup")))
          .isEqualTo(disk().cannotKeep(root().resolve("live")));
      assertThat(disk().keepsPermissions(root().resolve("live"))).isFalse();
    }

    @Test
    void oneNameInTwoCasesIsOneFile() throws IOException {
      write("Carriage.glb", "one");
      assertThatThrownBy(() -> write("carriage.GLB", "two"))
          .isInstanceOf(FileAlreadyExistsException.class);
      assertThat(read("CARRIAGE.glb")).isEqualTo("one");
    }
  }

  @Nested
  class MacOs extends Foreign {
    MacOs() {
      super(
          Configuration.osX().toBuilder().setAttributeViews("basic", "owner", "posix").build(),
          "/work");
    }

    @Override
    Optional<Boolean> opensToOthers() {
      return Optional.of(false);
    }
  }

  abstract static class Contract {
    abstract Disk disk() throws IOException;

    /** True if the system swaps two names in one step. */
    boolean exchanges() {
      return true;
    }

    abstract Path root();

    void write(String name, String text) throws IOException {
      byte[] bytes = text.getBytes(UTF_8);
      try (Sink sink = disk().create(root().resolve(name))) {
        sink.write(bytes, 0, bytes.length);
        sink.flush();
      }
    }

    String read(String name) throws IOException {
      try (InputStream in = Channels.newInputStream(disk().read(root().resolve(name)))) {
        return new String(in.readAllBytes(), UTF_8);
      }
    }

    @Test
    void createsOnlyNewNames() throws IOException {
      write("a", "first");
      assertThatThrownBy(() -> write("a", "second")).isInstanceOf(FileAlreadyExistsException.class);
      assertThat(read("a")).isEqualTo("first");
    }

    @Test
    void linkNeverOverwrites() throws IOException {
      write("a", "one");
      write("b", "two");
      assertThatThrownBy(() -> disk().link(root().resolve("a"), root().resolve("b")))
          .isInstanceOf(FileAlreadyExistsException.class);
      disk().link(root().resolve("a"), root().resolve("c"));
      assertThat(read("b")).isEqualTo("two");
      assertThat(read("c")).isEqualTo("one");
      assertThat(disk().facts(root().resolve("a")).orElseThrow().key())
          .isEqualTo(disk().facts(root().resolve("c")).orElseThrow().key());
    }

    @Test
    void exchangesTwoNamesInOneStep() throws IOException {
      write("live", "damaged");
      write("aside", "whole");
      assertThat(disk().exchange(root().resolve("live"), root().resolve("aside")))
          .isEqualTo(exchanges());
      assertThat(read("live")).isEqualTo(exchanges() ? "whole" : "damaged");
      assertThat(read("aside")).isEqualTo(exchanges() ? "damaged" : "whole");
    }

    @Test
    void exchangeWithAnAbsentFileFailsAndTouchesNothing() throws IOException {
      write("live", "kept");
      if (exchanges()) {
        assertThatThrownBy(() -> disk().exchange(root().resolve("live"), root().resolve("none")))
            .isInstanceOf(NoSuchFileException.class);
      } else {
        assertThat(disk().exchange(root().resolve("live"), root().resolve("none"))).isFalse();
      }
      assertThat(read("live")).isEqualTo("kept");
    }

    @Test
    void appendsAtTheEnd() throws IOException {
      for (String line : new String[] {"one\n", "two\n"}) {
        try (Sink sink = disk().append(root().resolve("log"))) {
          sink.write(line.getBytes(UTF_8), 0, line.length());
        }
      }
      assertThat(read("log")).isEqualTo("one\ntwo\n");
    }

    @Test
    void keepsNanosecondsOfTheLastWrite() throws IOException {
      write("a", "x");
      disk().touch(root().resolve("a"), 1_900_000_000_123_456_789L);
      assertThat(disk().facts(root().resolve("a")).orElseThrow().modifiedNanos())
          .isEqualTo(1_900_000_000_123_456_789L);
    }

    @Test
    void absentIsEmptyNotAnError() throws IOException {
      assertThat(disk().facts(root().resolve("none"))).isEmpty();
      write("file", "x");
      assertThat(disk().facts(root().resolve("file").resolve("below"))).isEmpty();
      assertThatThrownBy(() -> disk().read(root().resolve("none")))
          .isInstanceOf(NoSuchFileException.class);
    }

    @Test
    void publishingVerifiesAndLeavesNoStage() throws IOException {
      write("source", "work");
      disk().touch(root().resolve("source"), 1_900_000_000_000_000_001L);
      Publisher publisher = new Publisher(disk(), "node");

      assertThat(publisher.copy(root().resolve("source"), root().resolve("target")))
          .isEqualTo(ContentHash.of("work"));
      assertThat(read("target")).isEqualTo("work");
      assertThat(disk().facts(root().resolve("target")).orElseThrow().modifiedNanos())
          .isEqualTo(1_900_000_000_000_000_001L);
      assertThatThrownBy(() -> publisher.copy(root().resolve("source"), root().resolve("target")))
          .isInstanceOf(FileAlreadyExistsException.class);
      assertThat(disk().list(root())).noneMatch(StageName::is);
    }

    @Test
    void theIdentityOfManyStretchesIsThatOfTheBytes() throws IOException {
      byte[] bytes = new byte[21_000_003];
      new Random(8).nextBytes(bytes);
      ContentId id =
          new Publisher(disk(), "node")
              .publish(
                  root().resolve("target"),
                  sink -> {
                    for (int at = 0; at < bytes.length; at += 100_000) {
                      sink.write(bytes, at, Math.min(100_000, bytes.length - at));
                    }
                  },
                  PublishCheck.NONE);
      assertThat(id).isEqualTo(ContentHash.of(bytes));
      assertThat(Copying.identify(disk(), root().resolve("target"))).isEqualTo(id);
    }

    @Test
    void whatThisProcessIsAtIsNotClearedAway() throws IOException {
      Publisher publisher = new Publisher(disk(), "node");
      Publisher killed = new Publisher(disk(), "node");
      publisher.publish(
          root().resolve("target"),
          sink -> {
            sink.write(new byte[] {1, 2, 3}, 0, 3);
            assertThat(publisher.clearStages(root())).isZero();
          },
          PublishCheck.NONE);
      assertThat(disk().facts(root().resolve("target"))).isPresent();
      assertThatThrownBy(
              () ->
                  publisher.publish(
                      root().resolve("another"),
                      sink -> {
                        sink.write(new byte[] {1}, 0, 1);
                        assertThat(killed.clearStages(root())).isEqualTo(1);
                      },
                      PublishCheck.NONE))
          .as("a new process clears away what one before it left")
          .isInstanceOf(IOException.class);
    }

    @Test
    void aBitThatTurnsOnTheWayIsNeverPublished() throws IOException {
      Publisher publisher = new Publisher(turningOneBit(disk()), "node");
      assertThatThrownBy(
              () ->
                  publisher.publish(
                      root().resolve("target"),
                      sink -> sink.write("work".getBytes(StandardCharsets.UTF_8), 0, 4),
                      PublishCheck.NONE))
          .isInstanceOf(VerifyException.class)
          .hasMessageContaining("Nothing was published");
      assertThat(disk().list(root())).isEmpty();
    }
  }

  /** A disk on which what is written to a new file is not what was handed over. */
  private static Disk turningOneBit(Disk disk) {
    return (Disk)
        Proxy.newProxyInstance(
            Disk.class.getClassLoader(),
            new Class<?>[] {Disk.class},
            (self, method, arguments) -> {
              Object answer = method.invoke(disk, arguments);
              if (!method.getName().equals("create")) {
                return answer;
              }
              Sink sink = (Sink) answer;
              return Proxy.newProxyInstance(
                  Sink.class.getClassLoader(),
                  new Class<?>[] {Sink.class},
                  (inner, call, values) -> {
                    if (!call.getName().equals("write")) {
                      return call.invoke(sink, values);
                    }
                    byte[] bytes = ((byte[]) values[0]).clone();
                    bytes[0] ^= 1;
                    return call.invoke(sink, bytes, values[1], values[2]);
                  });
            });
  }
}
