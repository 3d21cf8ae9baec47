package dev.kavrin.core.incident;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.incident.OpenDocument.State;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.profile.LockText;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** That no lock file stands says "closed" only where one was seen to stand before. */
class LockFilesSeenTest extends EngineFixture {
  private Path lock;

  @BeforeEach
  void begin() throws IOException {
    write(live, model(1));
    look();
    lock = live.resolveSibling(".carriage-02.open");
    programRuns = true;
  }

  private OpenDocument stands() throws IOException {
    incidents.tick(project);
    return incidents.open(DOCUMENT);
  }

  @Test
  void noneTellsNothingWhereNoneWasEverSeen() throws IOException {
    OpenDocument open = stands();
    assertThat(open.state()).isEqualTo(State.UNKNOWN);
    assertThat(open.evidence()).singleElement().asString().contains("was ever seen here");
  }

  @Test
  void oneThatStoodOnceTellsThatItIsClosedAfterARestartToo() throws IOException {
    write(lock, new byte[] {1});
    assertThat(stands().state()).isEqualTo(State.HERE);
    Files.delete(lock);
    assertThat(stands().state()).isEqualTo(State.CLOSED);
    open();
    assertThat(stands().state()).isEqualTo(State.CLOSED);
  }

  /** The profile was put right: what was seen of another pattern says nothing of this one. */
  @Test
  void anotherPatternBeginsAnew() throws IOException {
    write(lock, new byte[] {1});
    assertThat(stands().state()).isEqualTo(State.HERE);
    Files.delete(lock);
    project =
        project.with(
            new ProgramProfile(
                "Modeller",
                "modeller",
                NamePattern.of("{stem}.lck"),
                null,
                project.program().leftovers(),
                null),
            project.plan());
    assertThat(stands().state()).isEqualTo(State.UNKNOWN);
  }

  /** What is a number, and what a name, only its pattern tells. */
  @Test
  void itsTextSaysWhoHasItOpenWhereItsPatternIsKnown() throws IOException {
    String text = "7 documents since 09:00; forge has it, by Ilse Brandt";
    write(lock, text.getBytes(StandardCharsets.UTF_8));
    assertThat(stands().state()).as("nothing looks like a machine").isEqualTo(State.HERE);
    describe(LockText.of("; {host} has it, by {user}"), null);
    OpenDocument open = stands();
    assertThat(open.state()).isEqualTo(State.ELSEWHERE);
    assertThat(open.evidence())
        .containsExactly("its lock file names the machine forge and Ilse Brandt");
    write(lock, "written in another way".getBytes(StandardCharsets.UTF_8));
    assertThat(stands().state()).isEqualTo(State.HERE);
  }
}
