package dev.kavrin.core.incident;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.journal.ProgramWrote;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What a program writes of its own accord is noted, and the note outlives the copy. */
class OwnCopiesTest extends EngineFixture {
  @BeforeEach
  void begin() throws IOException {
    write(live, model(1));
    write(live.resolveSibling(".carriage-02.open"), new byte[] {1});
    programRuns = true;
  }

  private Path slot(int n) {
    return live.resolveSibling(".drafts/carriage-02~" + n + ".tmp");
  }

  private void tick(Duration time) throws IOException {
    wait(time);
    incidents.tick(project);
  }

  private List<ProgramWrote> noted() {
    return recovery.history().programWrote(DOCUMENT);
  }

  @Test
  void eachWriteOfARingIsNotedOnceAndOutlivesIt() throws IOException {
    Instant begun = now;
    for (int i = 0; i < 6; i++) {
      write(slot(i % 3), model(i));
      tick(Duration.ofSeconds(1));
      tick(Duration.ofSeconds(30));
      tick(Duration.ofMinutes(5));
    }
    Files.delete(slot(0));
    open();
    tick(Duration.ofMinutes(1));
    assertThat(noted()).hasSize(6).allMatch(w -> w.kind() == CopyKind.AUTOSAVE);
    assertThat(noted()).extracting(ProgramWrote::modified).first().isEqualTo(begun);
    assertThat(noted()).filteredOn(w -> w.path().equals(slot(0).toString())).hasSize(2);
  }

  @Test
  void whatIsStillBeingWrittenIsNotedWhenItRests() throws IOException {
    tick(Duration.ofSeconds(30));
    wait(Duration.ofSeconds(30));
    write(slot(1), model(1));
    tick(Duration.ofSeconds(1));
    assertThat(noted()).isEmpty();
    tick(Duration.ofSeconds(6));
    assertThat(noted()).hasSize(1);
  }

  @Test
  void nothingIsNotedOfADocumentThatIsClosed() throws IOException {
    tick(Duration.ofMinutes(1));
    Files.delete(live.resolveSibling(".carriage-02.open"));
    write(slot(1), model(1));
    tick(Duration.ofMinutes(1));
    assertThat(noted()).isEmpty();
  }

  /**
   * Linux man page statx(2): the time a file was made is kept apart from that of its last write.
   */
  @Test
  void aFileTellsWhenItWasMade() throws IOException {
    Path file = root.resolve("made");
    Instant before = Instant.now().minusSeconds(1);
    try (OutputStream out = Files.newOutputStream(file)) {
      out.write(1);
    }
    Files.setLastModifiedTime(file, FileTime.from(now));
    assertThat(disk.born(file))
        .hasValueSatisfying(b -> assertThat(b).isBetween(before, Instant.now().plusSeconds(1)));
    assertThat(disk.born(root.resolve("absent"))).isEmpty();
  }
}
