package dev.kavrin.server.backup;

import static dev.kavrin.server.backup.Workstation.model;
import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.incident.OpenDocument.State;
import dev.kavrin.core.journal.JournalEntry;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;

/**
 * What is said of the ends that programs and machines come to, each played with real processes.
 * docs/detection.md is the table of it. All of it is common practice, no source.
 */
class DetectionTest {
  private static final Path TABLE = Path.of("../docs/detection.md");
  private static final Duration EARLIER = Duration.ofMinutes(2);
  private static final String NOTHING = "nothing";
  private static final String CRASH = "crash";
  private static final String ASKED = "asked";
  private static final String CLOSED = "closed, unsaved?";

  @TempDir private Path root;

  private final List<String> rows = new ArrayList<>();
  private int played;

  /** Plays a situation and gives what Kavrin then says, if anything. */
  private interface Play {
    Optional<JournalEntry.IncidentSet> on(Workstation w) throws IOException;
  }

  private record Situation(String name, String wanted, Play play) {}

  private static final List<Situation> SITUATIONS =
      List.of(
          new Situation(
              "killed while open; its lock file says nothing",
              CRASH,
              w -> {
                Process p = w.open("chassis.glb", "empty", "");
                w.look();
                assertThat(w.state(w.chassis)).isEqualTo(State.HERE);
                assertThat(w.state(w.roof)).isEqualTo(State.CLOSED);
                w.kill(p);
                return w.look();
              }),
          new Situation(
              "killed while open; its lock file names process and machine",
              CRASH,
              w -> {
                Process p = w.open("chassis.glb", "named", "");
                w.look();
                w.kill(p);
                return w.look();
              }),
          new Situation(
              "killed in the middle of a save; no lock files",
              CRASH,
              w -> {
                Process p = w.withoutLocks().open("chassis.glb", "none", "held");
                w.look();
                assertThat(w.state(w.chassis)).isEqualTo(State.HERE);
                w.tear("chassis.glb");
                w.kill(p);
                return w.look();
              }),
          new Situation(
              "died with a rescue file; no lock files",
              CRASH,
              w -> {
                Process p = w.withoutLocks().open("chassis.glb", "none", "");
                w.look();
                w.write(".drafts/chassis.rescue", model(5), Duration.ZERO);
                w.kill(p);
                return w.look();
              }),
          new Situation(
              "died, its crash handler took the lock file along and left a rescue file",
              CRASH,
              w -> {
                Process p = w.open("chassis.glb", "named", "");
                w.look();
                w.write(".drafts/chassis.rescue", model(5), Duration.ZERO);
                w.close(p);
                return w.look();
              }),
          new Situation(
              "died, took its lock file along, left nothing but its own crash log",
              CRASH,
              w -> {
                Process p = w.loggingCrashes().open("chassis.glb", "named", "");
                w.look();
                w.write("logs/session-1.log", "Fatal: no memory".getBytes(), Duration.ZERO);
                w.close(p);
                return w.look();
              }),
          new Situation(
              "closed, all saved; its crash log tells of an earlier crash",
              NOTHING,
              w -> {
                w.write("logs/session-1.log", "Fatal: no memory".getBytes(), EARLIER);
                Process p = w.loggingCrashes().open("chassis.glb", "named", "");
                w.look();
                w.close(p);
                return w.look();
              }),
          new Situation(
              "a lock file that says nothing, nobody saw the program; its crash log came after it",
              CRASH,
              w -> {
                w.loggingCrashes().write(".chassis.open", new byte[0], EARLIER);
                w.write("logs/session-1.log", "Fatal: no memory".getBytes(), Duration.ZERO);
                return w.look();
              }),
          new Situation(
              "closed, all saved",
              NOTHING,
              w -> {
                Process p = w.open("chassis.glb", "named", "");
                w.look();
                w.write(".drafts/chassis~1.tmp", model(5), EARLIER);
                w.write("chassis.glb", model(5), Duration.ofMinutes(1));
                w.close(p);
                return w.look();
              }),
          new Situation(
              "closed without saving, an autosave is newer",
              CLOSED,
              w -> {
                Process p = w.open("chassis.glb", "named", "");
                w.look();
                w.write(".drafts/chassis~1.tmp", model(5), Duration.ZERO);
                w.close(p);
                return w.look();
              }),
          new Situation(
              "closed, all saved; no lock files",
              NOTHING,
              w -> {
                Process p = w.withoutLocks().open("chassis.glb", "none", "held");
                w.look();
                w.close(p);
                return w.look();
              }),
          new Situation(
              "a second window lives on with another document, the first is killed",
              CRASH,
              w -> {
                Process first = w.open("chassis.glb", "named", "");
                w.open("roof.glb", "named", "");
                w.look();
                w.kill(first);
                Optional<JournalEntry.IncidentSet> told = w.look();
                assertThat(told.orElseThrow().documents()).containsExactly(w.chassis);
                assertThat(w.state(w.roof)).isEqualTo(State.HERE);
                return told;
              }),
          new Situation(
              "a second window lives on with another document, the first is closed",
              NOTHING,
              w -> {
                Process first = w.open("chassis.glb", "empty", "");
                w.open("roof.glb", "empty", "");
                w.look();
                w.close(first);
                return w.look();
              }),
          new Situation(
              "one of two windows is killed, and nothing tells which had the document",
              ASKED,
              w -> {
                Process first = w.open("roof.glb", "none", "");
                w.open("roof.glb", "none", "");
                w.write(".chassis.open", new byte[0], Duration.ZERO);
                w.look();
                w.kill(first);
                return w.look();
              }),
          new Situation(
              "another person's instance lives on, mine is killed",
              CRASH,
              w -> {
                w.ofSomebodyElse();
                Process mine = w.open("chassis.glb", "named", "");
                w.look();
                w.kill(mine);
                return w.look();
              }),
          new Situation(
              "a lock file that names another machine",
              NOTHING,
              w -> {
                w.write(".chassis.open", "bram@drafting-2:4711".getBytes(), EARLIER);
                Optional<JournalEntry.IncidentSet> told = w.look();
                assertThat(w.state(w.chassis)).isEqualTo(State.ELSEWHERE);
                return told;
              }),
          new Situation(
              "a lock file that names another machine, and an instance killed here",
              NOTHING,
              w -> {
                w.write(".chassis.open", "{\"host\": \"drafting-2\"}".getBytes(), Duration.ZERO);
                Process p = w.open("roof.glb", "none", "");
                w.look();
                w.kill(p);
                return w.look();
              }),
          new Situation(
              "a lock file that says nothing, and nobody saw the program here",
              ASKED,
              w -> {
                w.write(".chassis.open", new byte[0], EARLIER);
                return w.look();
              }),
          new Situation(
              "a stale lock file, older than the instance that works on something else",
              ASKED,
              w -> {
                w.write(".chassis.open", new byte[0], Duration.ofHours(9));
                w.open("roof.glb", "named", "");
                Optional<JournalEntry.IncidentSet> told = w.look();
                assertThat(told.orElseThrow().documents()).containsExactly(w.chassis);
                return told;
              }),
          new Situation(
              "a stale lock file whose number another process has by now",
              ASKED,
              w -> {
                Process other = w.open("roof.glb", "none", "");
                w.write(".chassis.open", ("pid=" + other.pid()).getBytes(), Duration.ofHours(9));
                Optional<JournalEntry.IncidentSet> told = w.look();
                assertThat(w.state(w.chassis)).isNotEqualTo(State.HERE);
                return told;
              }),
          new Situation(
              "power cut while it was open, its lock file left",
              CRASH,
              w -> {
                w.open("chassis.glb", "empty", "");
                w.look();
                w.powerCut();
                return w.look();
              }),
          new Situation(
              "power cut while it was open; no lock files",
              CRASH,
              w -> {
                w.withoutLocks().open("chassis.glb", "none", "held");
                w.look();
                w.powerCut();
                Optional<JournalEntry.IncidentSet> told = w.look();
                assertThat(told.orElseThrow().evidence().toString())
                    .contains("the machine went down while it was open");
                return told;
              }),
          new Situation(
              "power cut, and the program was opened again before Kavrin started",
              CRASH,
              w -> {
                w.open("chassis.glb", "named", "");
                w.look();
                w.killAll();
                w.open("chassis.glb", "named", "");
                w.startAfterAPowerCut();
                return w.look();
              }),
          new Situation(
              "power cut while the program ran with nothing open",
              NOTHING,
              w -> {
                // Its lock files are known: one stood, and went when the program was closed.
                Process earlier = w.open("chassis.glb", "empty", "");
                w.look();
                w.close(earlier);
                assertThat(w.look()).isEmpty();
                w.open("roof.glb", "none", "");
                w.look();
                w.powerCut();
                return w.look();
              }),
          new Situation(
              "Kavrin is killed, the program goes on",
              NOTHING,
              w -> {
                w.open("chassis.glb", "empty", "");
                w.look();
                w.start();
                Optional<JournalEntry.IncidentSet> told = w.look();
                assertThat(w.state(w.chassis)).isEqualTo(State.HERE);
                return told;
              }),
          new Situation(
              "Kavrin is killed, then the program; its lock file left",
              CRASH,
              w -> {
                Process p = w.open("chassis.glb", "empty", "");
                w.look();
                w.kill(p);
                w.start();
                return w.look();
              }),
          new Situation(
              "Kavrin is killed, then the program closed",
              NOTHING,
              w -> {
                Process p = w.open("chassis.glb", "empty", "");
                w.look();
                w.close(p);
                w.start();
                return w.look();
              }),
          new Situation(
              "Kavrin and the program are gone together; no lock files",
              CRASH,
              w -> {
                Process p = w.withoutLocks().open("chassis.glb", "none", "held");
                w.look();
                w.kill(p);
                w.start();
                return w.look();
              }),
          new Situation(
              "Kavrin is stopped in order, then the program closed; no lock files",
              NOTHING,
              w -> {
                Process p = w.withoutLocks().open("chassis.glb", "none", "held");
                w.look();
                w.stopInOrder();
                w.close(p);
                w.start();
                return w.look();
              }),
          new Situation(
              "a program nobody described has the file open, and is killed",
              NOTHING,
              w -> {
                w.undescribed().wrapped("chassis.glb", "none", "held");
                w.look();
                assertThat(w.state(w.chassis)).isEqualTo(State.HERE);
                assertThat(w.state(w.roof)).isEqualTo(State.UNKNOWN);
                w.killAll();
                Optional<JournalEntry.IncidentSet> told = w.look();
                assertThat(w.state(w.chassis)).isEqualTo(State.UNKNOWN);
                return told;
              }),
          new Situation(
              "a script that started the program ends, the program goes on",
              NOTHING,
              w -> {
                Process wrapper = w.wrapped("chassis.glb", "named", "");
                w.look();
                w.kill(wrapper);
                return w.look();
              }),
          new Situation(
              "a script that started the program ends, then the program is killed",
              CRASH,
              w -> {
                Process wrapper = w.wrapped("chassis.glb", "named", "");
                w.look();
                w.kill(wrapper);
                w.look();
                w.killAll();
                return w.look();
              }),
          new Situation(
              "the program goes on in a child and is killed there",
              CRASH,
              w -> {
                w.forking("chassis.glb");
                assertThat(w.look()).isEmpty();
                w.killAll();
                return w.look();
              }),
          new Situation(
              "the file is renamed while open, then the program is killed",
              CRASH,
              w -> {
                Process p = w.open("chassis.glb", "named", "");
                w.look();
                Files.move(w.work.resolve("chassis.glb"), w.work.resolve("old.glb"));
                w.kill(p);
                return w.look();
              }),
          new Situation(
              "the folder is away while the program is killed, and returns",
              CRASH,
              w -> {
                Process p = w.open("chassis.glb", "empty", "");
                w.look();
                Path away = w.work.resolveSibling("away");
                Files.move(w.work, away);
                w.kill(p);
                assertThat(w.look()).isEmpty();
                Files.move(away, w.work);
                return w.look();
              }),
          new Situation(
              "a lock file left by a program of which a person said that it does so",
              ASKED,
              w -> {
                w.kill(w.lookedAt(w.open("chassis.glb", "empty", "")));
                w.answer(w.look().orElseThrow(), IncidentWatch.MEANT);
                w.kill(w.lookedAt(w.open("chassis.glb", "empty", "")));
                return w.look();
              }));

  private static String seen(Optional<JournalEntry.IncidentSet> told) {
    return told.map(i -> i.kind().equals("closed") ? CLOSED : i.kind()).orElse(NOTHING);
  }

  @TestFactory
  Stream<DynamicTest> theSituations() throws IOException {
    Path script = root.resolve("program.sh");
    try (InputStream in = DetectionTest.class.getResourceAsStream("/program.sh")) {
      Files.write(script, in.readAllBytes());
    }
    Stream<DynamicTest> plays =
        SITUATIONS.stream().map(s -> DynamicTest.dynamicTest(s.name(), () -> play(s, script)));
    return Stream.concat(
        plays, Stream.of(DynamicTest.dynamicTest("docs/detection.md", this::theTable)));
  }

  private void play(Situation situation, Path script) throws IOException {
    Path place = Files.createDirectories(root.resolve("w" + played++));
    try (Workstation w = new Workstation(place, script)) {
      String seen = seen(situation.play().on(w));
      rows.add("| " + situation.name() + " | " + situation.wanted() + " | " + seen + " |");
      assertThat(seen).isEqualTo(situation.wanted());
    }
  }

  private void theTable() throws IOException {
    assertThat(rows).hasSizeGreaterThanOrEqualTo(24);
    assertThat(Files.readAllLines(TABLE).stream().filter(l -> l.startsWith("| ")).skip(1).toList())
        .isEqualTo(rows);
  }
}
