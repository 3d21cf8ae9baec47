package dev.kavrin.core.recoverytest;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.incident.Leftovers;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.journal.Proof;
import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.OwnWrites;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.PlanFigures;
import dev.kavrin.core.plan.PlanInputs;
import dev.kavrin.core.plan.Replay;
import dev.kavrin.core.plan.Worked;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.version.Candidate;
import dev.kavrin.core.version.Candidates;
import dev.kavrin.core.version.Manifest;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A crash on purpose, on a copy in a scratch folder and on a simulated clock: the engine itself
 * watches what an acting program writes, the program dies, what survived is found and ranked, and
 * what is recommended is restored and held against the truth.
 */
public final class RecoveryTest {

  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final Actor.Maker actors;

  public RecoveryTest(Disk disk, Publisher publisher, Inspector inspector, Actor.Maker actors) {
    this.disk = disk;
    this.publisher = publisher;
    this.inspector = inspector;
    this.actors = actors;
  }

  /** How many parts of what was restored differ from the truth; null if that cannot be told. */
  public interface Difference {
    @Nullable
    Integer between(Path truth, Path restored) throws IOException;
  }

  /** A state that was written, when, and how. */
  private record Beat(Instant at, Path state, boolean save) {}

  /**
   * @param scratch an empty folder that is there; what is written into it stays
   * @param begin when the drill begins on its clock
   */
  public Proof of(TestCase drill, Path scratch, Instant begin, Difference difference)
      throws IOException {
    return new Run(drill, scratch, begin).proof(difference);
  }

  private final class Run {
    private final TestCase drill;
    private final TestHarness harness;
    private final Path live;
    private final Actor actor;
    private final List<Beat> beats = new ArrayList<>();
    private final Instant first;

    Run(TestCase drill, Path scratch, Instant begin) throws IOException {
      this.drill = drill;
      this.harness =
          new TestHarness(
              disk,
              publisher,
              inspector,
              new TestHarness.Rehearsed(drill.project(), drill.document(), drill.path()),
              scratch,
              begin);
      this.first = begin;
      this.live = harness.live();
      this.actor = actors.of(live, harness.project().program(), harness.clock());
    }

    Proof proof(Difference difference) throws IOException {
      act();
      Instant crash = harness.clock().instant();
      actor.die(drill.way(), beats.get(beats.size() - 1).state());
      long began = System.nanoTime();
      harness.die();
      Optional<Candidate> best = Candidates.recommended(found());
      Instant predicted = predictedWork(crash);
      if (best.isEmpty()) {
        return nothing(predicted, crash, Duration.ofNanos(System.nanoTime() - began));
      }
      Receipt receipt = restore(best.get());
      Duration took = Duration.ofNanos(System.nanoTime() - began);
      Path restored = Path.of(receipt.target());
      Instant truly = truly(receipt.content());
      Duration actual = truly == null ? null : Duration.between(truly, crash);
      Duration promised = promised();
      boolean within = promised == null || actual != null && actual.compareTo(promised) <= 0;
      return new Proof(
          "stand-in",
          drill.way().words(),
          planDigest(harness.plan()),
          promised,
          predicted == null ? null : Duration.between(predicted, crash),
          actual,
          difference.between(beats.get(beats.size() - 1).state(), restored),
          best.get().kind() + " " + harness.scratch().relativize(Path.of(best.get().path())),
          receipt.verdict(),
          actual != null && within && receipt.verdict().trustworthy(),
          actual == null
              ? "What came back is none of the versions that were written: damage of this kind"
                  + " cannot be seen in it."
              : within ? "" : "More was lost than the plan promises.",
          took);
    }

    private Proof nothing(@Nullable Instant predicted, Instant crash, Duration took) {
      return new Proof(
          "stand-in",
          drill.way().words(),
          planDigest(harness.plan()),
          promised(),
          predicted == null ? null : Duration.between(predicted, crash),
          null,
          null,
          null,
          Verdict.NOT_CHECKED,
          false,
          "Nothing whole was found; all of it would be lost.",
          took);
    }

    /**
     * The work: a first state as it was opened, then one more after each gap; where the program
     * makes copies of its own, one of those in the middle between two saves.
     */
    private void act() throws IOException {
      List<Path> states = drill.states();
      boolean ownCopies = hasOwnCopies();
      Duration gap = ownCopies ? drill.gap().dividedBy(2) : drill.gap();
      actor.save(states.get(0));
      beats.add(new Beat(harness.clock().instant(), states.get(0), true));
      actor.open();
      harness.pass(harness.project().plan().quiet().plus(gap));
      harness.watch().copyNow(drill.document(), "begin of the recovery test");
      Duration needed =
          harness
              .project()
              .plan()
              .dueAfter()
              .orElse(Duration.ZERO)
              .plus(harness.project().plan().quiet());
      long most = needed.dividedBy(gap) + 2;
      for (int i = 1; i < states.size() && i <= most; i++) {
        boolean save = !ownCopies || i % 2 == 0;
        if (save) {
          actor.save(states.get(i));
        } else {
          actor.autosave(states.get(i));
        }
        beats.add(new Beat(harness.clock().instant(), states.get(i), save));
        harness.pass(i + 1 < states.size() && i + 1 <= most ? gap : gap.minus(TestHarness.LOOK));
      }
    }

    private boolean hasOwnCopies() {
      return drill.programWrites() != null
          && harness.project().program().leftovers().stream()
              .anyMatch(l -> l.kind() == CopyKind.AUTOSAVE);
    }

    /** Everything that survived, as the desk would list it. */
    private List<Candidate> found() throws IOException {
      List<Candidate> all = new ArrayList<>();
      add(all, live, CopyKind.LIVE);
      for (Leftovers.Leftover l :
          Leftovers.find(disk, harness.project(), drill.document(), drill.path(), List.of())) {
        add(all, l.path(), l.kind());
      }
      for (BackupRecord capture : harness.keep().history().captures(drill.document())) {
        Path path = harness.keep().absolute(capture.path());
        all.add(
            candidate(
                path,
                capture.kind(),
                inspector.inspect(path, live.getFileName().toString()),
                capture.content(),
                capture.workTo(),
                !capture.settled()));
      }
      return all;
    }

    private void add(List<Candidate> all, Path path, CopyKind kind) throws IOException {
      Optional<FileFacts> facts = disk.facts(path).filter(FileFacts::isFile);
      if (facts.isPresent()) {
        HealthReport health = inspector.inspect(path, live.getFileName().toString());
        ContentId content = publisher.identify(path);
        all.add(candidate(path, kind, health, content, facts.get().modified(), false));
      }
    }

    private static Candidate candidate(
        Path path,
        CopyKind kind,
        HealthReport health,
        ContentId content,
        Instant work,
        boolean unsettled) {
      String version = Manifest.ofFile(content).digest();
      return Candidate.of(
          version, path.toString(), kind, health, work, content.length(), unsettled);
    }

    private Receipt restore(Candidate best) throws IOException {
      Restorer restorer = new Restorer(disk, publisher, inspector, harness.keep(), harness.clock());
      RestorePlan plan =
          restorer
              .planner()
              .plan(
                  drill.way() == FailureMode.DRIVE_GONE
                      ? RestoreMode.ELSEWHERE
                      : RestoreMode.REPLACE,
                  Path.of(best.path()),
                  live,
                  best.work(),
                  ZoneId.of(harness.project().zone()),
                  harness.elsewhere());
      return plan.content().equals(plan.present())
          ? untouched(plan, best)
          : restorer.restore(new Restorer.Order(plan, drill.document(), best.kind()), "Kavrin");
    }

    /** The file itself is the best there is. */
    private Receipt untouched(RestorePlan plan, Candidate best) {
      return new Receipt(
          drill.document(),
          "Kavrin",
          "replace",
          best.state(),
          plan.source().toString(),
          plan.target().toString(),
          null,
          plan.content(),
          plan.content(),
          best.verdict(),
          "",
          best.kind(),
          null);
    }

    /** When the work in a content was really done; null if it is none of what was written. */
    @Nullable
    private Instant truly(ContentId content) throws IOException {
      for (int i = beats.size() - 1; i >= 0; i--) {
        if (publisher.identify(beats.get(i).state()).equals(content)) {
          return beats.get(i).at();
        }
      }
      return null;
    }

    /** The newest work that should come back: of copies by replay, of writes by what is left. */
    @Nullable
    private Instant predictedWork(Instant crash) {
      List<Activity.Write> saves =
          beats.stream()
              .skip(1)
              .filter(Beat::save)
              .map(b -> new Activity.Write(b.at(), 1))
              .toList();
      List<Instant> moments = new ArrayList<>(beats.stream().map(Beat::at).toList());
      moments.add(crash);
      Activity activity =
          new Activity(
              Map.of(drill.document(), saves),
              List.of(new Activity.Crash(crash, crash, List.of(drill.document()))),
              List.of(),
              Worked.of(moments, drill.gap()),
              ZoneId.of(harness.project().zone()),
              new Activity.Looks(first, TestHarness.LOOK, crash),
              Set.of());
      Instant newest = Replay.of(harness.project().plan(), activity, 1).losses().get(0).work();
      Instant opened = beats.get(0).at();
      Instant best = newest == null || newest.isBefore(opened) ? opened : newest;
      for (Beat beat : beats) {
        boolean left = beat.save() ? isLeft(beat) : !drill.way().losesLeftovers();
        if (left && beat.at().isAfter(best)) {
          best = beat.at();
        }
      }
      return best;
    }

    private boolean isLeft(Beat save) {
      boolean last = beats.stream().noneMatch(b -> b.save() && b.at().isAfter(save.at()));
      return last && drill.way().leavesFile();
    }

    @Nullable
    private Duration promised() {
      PlanInputs inputs =
          new PlanInputs(
              1, OwnWrites.setTo(drill.gap()), null, Duration.ofSeconds(1), 1, 1, Map.of(), null);
      return PlanFigures.of(harness.project().plan(), inputs).fileLost();
    }
  }

  /** Changes whenever a plan comes to other copies. */
  public static String planDigest(Plan plan) {
    return ContentHash.of(
            List.of(
                    plan.interval(),
                    plan.everySave(),
                    plan.everySteps(),
                    plan.quiet(),
                    plan.hardLimit(),
                    plan.handsOff(),
                    plan.keep(),
                    plan.runs(),
                    plan.light(),
                    plan.kindsOff())
                .toString())
        .digest();
  }
}
