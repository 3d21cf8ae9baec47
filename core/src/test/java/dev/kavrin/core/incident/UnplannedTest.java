package dev.kavrin.core.incident;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.host.Instance;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Work that lies where nobody backs it up. */
class UnplannedTest extends EngineFixture {
  private Path away;

  @BeforeEach
  void begin() throws IOException {
    away = Path.of(project.folder()).resolveSibling("Downloads");
    write(away.resolve("bell.glb"), model(1));
    write(away.resolve("winch.glb"), model(2));
  }

  private List<Unplanned> seen(Set<Path> open, String... arguments) {
    List<String> command = Arrays.asList(arguments);
    Instance one = new Instance(7, "ilse", Instant.EPOCH, command, away, null, open, null);
    return Unplanned.of(
        disk,
        project,
        List.of(one),
        List.of(live, live.resolveSibling("gears/spur.glb"), live.resolveSibling("gears/rack.glb")),
        file -> file.equals(away.resolve("winch.glb")));
  }

  @Test
  void whatAProgramHasOpenOrWasStartedWithOutsideIsSeenOnce() {
    List<Unplanned> seen = seen(Set.of(away.resolve("bell.glb")), "modeller", "--open=bell.glb");
    assertThat(seen)
        .singleElement()
        .extracting(Unplanned::file)
        .isEqualTo(away.resolve("bell.glb"));
    assertThat(seen.get(0).passing()).isTrue();
    assertThat(seen.get(0).proper())
        .as("where most of its kind lie")
        .isEqualTo(live.resolveSibling("gears"));
    assertThat(seen(Set.of(), "modeller", "bell.glb")).hasSize(1);
  }

  @Test
  void whatIsBackedUpIsNoDocumentOrIsNotThereIsNotSeen() throws IOException {
    write(away.resolve("notes.txt"), new byte[] {1});
    write(live.resolveSibling("new.glb"), model(3));
    assertThat(
            seen(
                Set.of(
                    away.resolve("winch.glb"),
                    away.resolve("notes.txt"),
                    live.resolveSibling("new.glb"),
                    away),
                "modeller",
                "gone.glb",
                "-",
                "\0"))
        .isEmpty();
  }
}
