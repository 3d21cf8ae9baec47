package dev.kavrin.core.incident;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProgramSeen;
import dev.kavrin.core.plan.Worked;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What was open when everything stopped, and how long somebody had worked by then. */
class ProgramDiaryTest extends EngineFixture {
  private static final Duration LOOK = Duration.ofMinutes(1);

  @BeforeEach
  void begin() throws IOException {
    write(live, model(1));
    look();
    programRuns = true;
  }

  /** The program runs and computes, or waits. */
  private void runs(Duration time, boolean busy) throws IOException {
    for (Duration end = running.plus(time); running.compareTo(end) < 0; wait(LOOK)) {
      used = (used == null ? Duration.ZERO : used).plusSeconds(busy ? 20 : 0);
      assertThat(incidents.tick(project)).isEmpty();
      look();
    }
  }

  private List<ProgramSeen> seen() {
    return recovery.history().programSeen(project.id());
  }

  /** Kavrin and the program end with the machine; both are asked about at the next start. */
  private Optional<JournalEntry.IncidentSet> afterAPowerCut(String nextBoot) throws IOException {
    boot = nextBoot;
    programRuns = false;
    wait(Duration.ofHours(2));
    open();
    look();
    return incidents.tick(project);
  }

  @Test
  void aPowerCutIsACrashOfWhatWasWorkedOn() throws IOException {
    runs(Duration.ofMinutes(30), true);
    write(live, model(2));
    runs(Duration.ofMinutes(22), true);
    Instant alive = now;
    JournalEntry.IncidentSet incident = afterAPowerCut("second").orElseThrow();
    assertThat(incident.kind()).isEqualTo("crash");
    assertThat(incident.evidence()).singleElement().asString().contains("the machine went down");
    assertThat(incident.from()).isBetween(alive.minus(Duration.ofMinutes(6)), alive);
    assertThat(incident.to()).isEqualTo(now);
    assertThat(incidents.tick(project)).isEmpty();
  }

  @Test
  void aPowerCutBesideAProgramWithNothingToSaveIsNone() throws IOException {
    wait(Duration.ofHours(1));
    runs(Duration.ofMinutes(30), false);
    assertThat(afterAPowerCut("second")).isEmpty();
  }

  /** Kavrin alone was killed; the program was closed in the meantime, cleanly. */
  @Test
  void aStopOfKavrinAloneIsNoCrash() throws IOException {
    runs(Duration.ofMinutes(10), true);
    write(live, model(2));
    runs(Duration.ofMinutes(10), true);
    assertThat(afterAPowerCut("first")).isEmpty();
    assertThat(seen()).allMatch(ProgramSeen::ended);
  }

  @Test
  void aProgramThatOutlivesKavrinGoesOnInTheSameSpan() throws IOException {
    runs(Duration.ofMinutes(20), true);
    open();
    runs(Duration.ofMinutes(20), true);
    assertThat(seen()).hasSize(1);
    assertThat(Duration.between(seen().get(0).from(), seen().get(0).to()))
        .isGreaterThanOrEqualTo(Duration.ofMinutes(35));
  }

  /** A colleague opened it on another machine, and saves. */
  @Test
  void aLockFileFromElsewhereIsAsked() throws IOException {
    programRuns = false;
    incidents.tick(project);
    write(live.resolveSibling(".carriage-02.open"), new byte[] {1});
    byte[] saving = model(7);
    write(live, java.util.Arrays.copyOf(saving, saving.length / 2));
    assertThat(incidents.tick(project)).as("in the middle of a save").isEmpty();
    write(live, saving);
    wait(Duration.ofMinutes(1));
    JournalEntry.IncidentSet question = incidents.tick(project).orElseThrow();
    assertThat(question.kind()).isEqualTo(IncidentWatch.ASKED);
    assertThat(question.evidence().toString()).contains("open elsewhere, or was left behind");
    wait(Duration.ofMinutes(1));
    assertThat(incidents.tick(project)).isEmpty();
  }

  /** Work is what the processor did, not that a window stood open over lunch. */
  @Test
  void idleHoursAreNoWorkThoughTheProgramRuns() throws IOException {
    runs(Duration.ofMinutes(40), true);
    runs(Duration.ofHours(3), false);
    runs(Duration.ofMinutes(30), true);
    List<Worked.Sitting> spans =
        seen().stream().map(s -> new Worked.Sitting(s.from(), s.to())).toList();
    assertThat(spans).hasSize(2);
    assertThat(new Worked(List.of()).and(spans).total())
        .isBetween(Duration.ofMinutes(60), Duration.ofMinutes(80));
  }

  /** The lid was shut for a night, the program open. */
  @Test
  void aMachineAsleepWorkedNotAllNight() throws IOException {
    runs(Duration.ofMinutes(40), true);
    wait(Duration.ofHours(9));
    runs(Duration.ofMinutes(40), true);
    List<Worked.Sitting> spans =
        seen().stream().map(s -> new Worked.Sitting(s.from(), s.at())).toList();
    assertThat(spans).hasSize(2);
    assertThat(new Worked(List.of()).and(spans).total())
        .isBetween(Duration.ofMinutes(70), Duration.ofMinutes(80));
  }

  /** A session without a second save is lost as a whole, not "0 minutes". */
  @Test
  void workSinceTheLastWriteCountsUpToTheLastMomentAlive() {
    Instant saved = now;
    Instant alive = now.plus(Duration.ofHours(2));
    List<Worked.Sitting> none = List.of();
    Worked worked =
        Worked.of(List.of(saved, alive), Duration.ZERO)
            .and(Worked.open(List.of(saved), List.of(alive), none));
    assertThat(worked.between(saved, alive)).isEqualTo(Duration.ofHours(2));
    List<Worked.Sitting> seen = List.of(new Worked.Sitting(saved, saved.plusSeconds(600)));
    assertThat(Worked.open(List.of(saved), List.of(alive), seen)).isEmpty();
  }
}
