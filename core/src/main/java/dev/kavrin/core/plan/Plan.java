package dev.kavrin.core.plan;

import dev.kavrin.core.compare.LossLimits;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.ProgramCounts;
import dev.kavrin.core.keep.RunCounts;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * When copies are made, how many stay, what a person accepts to lose.
 *
 * @param interval longest time from a change to its copy; zero means no timed copies
 * @param everySave every save is copied, whatever the interval
 * @param everySteps of a run every so many-th step is copied as soon as it is there; zero for none
 * @param quiet how long the file must have rested before it is copied
 * @param hardLimit how long a copy waits for that rest at most
 * @param handsOff when to stay away altogether
 * @param keep how many states stay
 * @param runs how many steps of runs stay
 * @param light what timed copies leave out
 * @param accepted work a person is willing to lose
 * @param reckoning what they put in place of what was measured
 * @param reminder after so long without a save, while its program runs, people are reminded; zero
 *     for never
 * @param kindsOff endings of files of which no timed copies are made, without the dot
 * @param loss how much may go with one save before a person is asked
 * @param proving when to prove that copies come back
 * @param programCopies how many stay of what programs write aside of their own accord
 * @param compacting whether older versions are compacted, and which stay plain files
 * @param projectRoom bytes that all versions of the project may take in each backup folder, dropped
 *     ones that wait in the bin included; zero for no limit
 */
public record Plan(
    Duration interval,
    boolean everySave,
    int everySteps,
    Duration quiet,
    Duration hardLimit,
    Pauses handsOff,
    Counts keep,
    RunCounts runs,
    Light light,
    Duration accepted,
    Reckoning reckoning,
    Duration reminder,
    List<String> kindsOff,
    LossLimits loss,
    Proving proving,
    ProgramCounts programCopies,
    Compacting compacting,
    long projectRoom) {
  private static final int MOST_STEPS = 1_000_000;
  private static final Duration LONGEST = Duration.ofDays(7);

  /** Factory values. */
  public static final Plan DEFAULT =
      every(
          Duration.ofMinutes(10),
          new Counts(24, Duration.ofDays(2), Duration.ofDays(30), Duration.ZERO, 0, 0),
          Duration.ofMinutes(30));

  /** Minutes after a change, the file having rested 2 s, in 2 min at most. */
  public static Plan every(Duration interval, Counts keep, Duration accepted) {
    return new Plan(
        interval,
        false,
        0,
        Duration.ofSeconds(2),
        Duration.ofMinutes(2),
        Pauses.NEVER,
        keep,
        RunCounts.DEFAULT,
        Light.NEVER,
        accepted,
        Reckoning.MEASURED,
        Duration.ZERO,
        List.of(),
        LossLimits.DEFAULT,
        Proving.DEFAULT,
        ProgramCounts.DEFAULT,
        Compacting.OFF,
        0);
  }

  public Plan {
    handsOff = handsOff == null ? Pauses.NEVER : handsOff;
    runs = runs == null ? RunCounts.DEFAULT : runs;
    light = light == null ? Light.NEVER : light;
    reckoning = reckoning == null ? Reckoning.MEASURED : reckoning;
    loss = loss == null ? LossLimits.DEFAULT : loss;
    proving = proving == null ? Proving.DEFAULT : proving;
    programCopies = programCopies == null ? ProgramCounts.DEFAULT : programCopies;
    compacting = compacting == null ? Compacting.OFF : compacting;
    reminder = reminder == null ? Duration.ZERO : reminder;
    kindsOff =
        kindsOff == null
            ? List.of()
            : kindsOff.stream()
                .map(k -> k.strip().toLowerCase(Locale.ROOT).replaceFirst("^\\.", ""))
                .distinct()
                .toList();
    if (everySteps < 0 || everySteps > MOST_STEPS) {
      throw new IllegalArgumentException(
          "Steps between copies: " + everySteps + " is not within 0 to " + MOST_STEPS);
    }
    if (projectRoom < 0) {
      throw new IllegalArgumentException("Room limit: " + projectRoom + " bytes is negative");
    }
    inRange("interval", interval, Duration.ZERO, LONGEST);
    inRange("quiet time", quiet, Duration.ofSeconds(2), Duration.ofHours(1));
    inRange("longest wait", hardLimit, Duration.ZERO, Duration.ofHours(4));
    inRange("reminder", reminder, Duration.ZERO, Duration.ofDays(1));
    inRange("accepted loss", accepted, Duration.ofMinutes(1), LONGEST);
  }

  private static void inRange(String what, Duration value, Duration least, Duration most) {
    if (value.compareTo(least) < 0 || value.compareTo(most) > 0) {
      throw new IllegalArgumentException(
          what
              + ": "
              + value.toSeconds()
              + " s is not within "
              + least.toSeconds()
              + " to "
              + most.toSeconds()
              + " s");
    }
  }

  /** A plan being changed. */
  private final class Draft {
    private Duration interval = Plan.this.interval;
    private boolean everySave = Plan.this.everySave;
    private int everySteps = Plan.this.everySteps;
    private Pauses handsOff = Plan.this.handsOff;
    private Counts keep = Plan.this.keep;
    private RunCounts runs = Plan.this.runs;
    private Light light = Plan.this.light;
    private Reckoning reckoning = Plan.this.reckoning;
    private Duration reminder = Plan.this.reminder;
    private List<String> kindsOff = Plan.this.kindsOff;
    private ProgramCounts programCopies = Plan.this.programCopies;
    private Compacting compacting = Plan.this.compacting;
    private long projectRoom = Plan.this.projectRoom;

    Plan done() {
      return new Plan(
          interval,
          everySave,
          everySteps,
          quiet,
          hardLimit,
          handsOff,
          keep,
          runs,
          light,
          accepted,
          reckoning,
          reminder,
          kindsOff,
          loss,
          proving,
          programCopies,
          compacting,
          projectRoom);
    }
  }

  private Plan changed(Consumer<Draft> change) {
    Draft draft = new Draft();
    change.accept(draft);
    return draft.done();
  }

  /** The same at another interval. */
  public Plan every(Duration other) {
    return changed(d -> d.interval = other);
  }

  public Plan with(Pauses other) {
    return changed(d -> d.handsOff = other);
  }

  public Plan with(Counts other) {
    return changed(d -> d.keep = other);
  }

  public Plan with(Light other) {
    return changed(d -> d.light = other);
  }

  public Plan with(Reckoning other) {
    return changed(d -> d.reckoning = other);
  }

  public Plan with(ProgramCounts other) {
    return changed(d -> d.programCopies = other);
  }

  public Plan with(Compacting other) {
    return changed(d -> d.compacting = other);
  }

  /** The same with so much room for the whole project. */
  public Plan within(long bytes) {
    return changed(d -> d.projectRoom = bytes);
  }

  /** True if it limits what backups may take, of a document or of all. */
  public boolean holdsRoom() {
    return keep.room() > 0 || projectRoom > 0;
  }

  public Plan onEverySave() {
    return changed(d -> d.everySave = true);
  }

  /** Every so many steps of a run, with counts of their own. */
  public Plan onSteps(int every, RunCounts counts) {
    return changed(
        d -> {
          d.everySteps = every;
          d.runs = counts;
        });
  }

  /** The same with a reminder after so long. */
  public Plan reminding(Duration after) {
    return changed(d -> d.reminder = after);
  }

  /** The same without timed copies of files with these endings. */
  public Plan without(List<String> endings) {
    return changed(d -> d.kindsOff = endings);
  }

  /** What holds for files of an ending: this, or the same without timed copies. */
  public Plan forKind(String ending) {
    return !kindsOff.contains(ending)
        ? this
        : changed(
            d -> {
              d.interval = Duration.ZERO;
              d.everySave = false;
              d.everySteps = 0;
            });
  }

  /** True if copies are made without a person asking. */
  public boolean timed() {
    return everySteps > 0 || dueAfter().isPresent();
  }

  /** How long after a change a copy is due; empty if none ever is. */
  public Optional<Duration> dueAfter() {
    if (everySave) {
      return Optional.of(Duration.ZERO);
    }
    return interval.isZero() ? Optional.empty() : Optional.of(interval);
  }
}
