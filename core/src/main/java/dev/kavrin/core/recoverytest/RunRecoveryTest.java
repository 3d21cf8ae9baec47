package dev.kavrin.core.recoverytest;

import dev.kavrin.core.backup.RunFolder;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.journal.Proof;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.plan.RunFigures;
import dev.kavrin.core.plan.RunInputs;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.core.restore.StepLayout.Piece;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Role;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;

/**
 * A crash on purpose in the middle of a copied run: the engine itself takes the steps its plan
 * wants, the solver dies, and the newest whole step is laid out and held against what was computed.
 */
public final class RunRecoveryTest {
  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final RunActor.Maker actors;

  public RunRecoveryTest(
      Disk disk, Publisher publisher, Inspector inspector, RunActor.Maker actors) {
    this.disk = disk;
    this.publisher = publisher;
    this.inspector = inspector;
    this.actors = actors;
  }

  /**
   * @param scratch an empty folder that is there; what is written into it stays
   * @param begin when the drill begins on its clock
   */
  public Proof of(
      RunTestCase drill, Path scratch, Instant begin, RecoveryTest.Difference difference)
      throws IOException {
    return new Run(drill, scratch, begin).proof(difference);
  }

  /** A step that was written, and when. */
  record Beat(RunTestCase.Played played, Instant at) {}

  /** A whole step that survived. */
  private record Survivor(long step, boolean held, List<Piece> pieces) {}

  /** What a file is for, whatever its step; without a role it is the set-up. */
  private record Place(@Nullable Role role, String part) {}

  private final class Run {
    private final RunTestCase drill;
    private final TestHarness harness;
    private final RunActor actor;
    private final List<Beat> beats = new ArrayList<>();

    Run(RunTestCase drill, Path scratch, Instant begin) throws IOException {
      this.drill = drill;
      this.harness =
          new TestHarness(
              disk,
              publisher,
              inspector,
              new TestHarness.Rehearsed(drill.project(), drill.document(), drill.path()),
              scratch,
              begin);
      this.actor = actors.of(harness.live(), harness.clock());
    }

    Proof proof(RecoveryTest.Difference difference) throws IOException {
      compute();
      Instant crash = harness.clock().instant();
      Beat last = beats.get(beats.size() - 1);
      actor.die(drill.way(), last.played().files());
      long began = System.nanoTime();
      harness.die();
      Optional<Survivor> best =
          survivors().stream()
              .max(Comparator.comparingLong(Survivor::step).thenComparing(s -> !s.held()));
      Duration predicted = new RunForecast(beats, harness.plan(), drill.way()).loss(crash);
      if (best.isEmpty()) {
        return record(
            began,
            predicted,
            null,
            null,
            null,
            "Nothing whole was found; the run would have to begin anew.",
            Verdict.NOT_CHECKED);
      }
      Restorer restorer = new Restorer(disk, publisher, inspector, harness.keep(), harness.clock());
      StepLayout layout =
          restorer
              .planner()
              .layout(
                  best.get().pieces(),
                  harness.elsewhere(),
                  harness.elsewhere(),
                  "step-" + best.get().step());
      List<Receipt> receipts = restorer.layOut(layout, drill.document(), "Kavrin");
      Beat truly =
          beats.stream().filter(b -> b.played().step() == best.get().step()).findFirst().get();
      String unlike = unlike(truly, layout);
      return record(
          began,
          predicted,
          Duration.between(truly.at(), crash),
          parts(last, layout, difference),
          (best.get().held() ? "CAPTURE" : "LIVE") + " step " + best.get().step(),
          unlike,
          receipts.stream().map(Receipt::verdict).max(Comparator.naturalOrder()).orElseThrow());
    }

    private Proof record(
        long began,
        Duration predicted,
        @Nullable Duration actual,
        @Nullable Integer parts,
        @Nullable String from,
        String told,
        Verdict verdict) {
      Duration promised = promised();
      boolean within = actual != null && (promised == null || actual.compareTo(promised) <= 0);
      return new Proof(
          "stand-in",
          drill.way().words(),
          RecoveryTest.planDigest(harness.plan()),
          promised,
          predicted,
          actual,
          parts,
          from,
          verdict,
          within && told.isEmpty() && verdict.trustworthy(),
          told.isEmpty() && !within ? "More was lost than the plan promises." : told,
          Duration.ofNanos(System.nanoTime() - began));
    }

    /** Step after step; the crash comes just before the one that would follow. */
    private void compute() throws IOException {
      actor.open(drill.setup());
      harness.pass(harness.plan().quiet().plus(TestHarness.LOOK));
      for (int i = 0; i < drill.steps().size(); i++) {
        actor.step(drill.steps().get(i).files());
        beats.add(new Beat(drill.steps().get(i), harness.clock().instant()));
        boolean isLast = i + 1 == drill.steps().size();
        harness.pass(
            drill.gap(isLast ? i - 1 : i).minus(isLast ? TestHarness.LOOK : Duration.ZERO));
      }
    }

    private SetRule rule() {
      return harness.project().sets();
    }

    /** Whole steps one can go on from: in the folder of the run, and among the copies. */
    private List<Survivor> survivors() throws IOException {
      List<Survivor> all = new ArrayList<>();
      onDisk().forEach((step, pieces) -> add(all, step, false, pieces));
      for (SetRecord set : harness.keep().history().sets(drill.document())) {
        List<Piece> pieces = new ArrayList<>();
        for (SetRecord.Member member : set.members()) {
          harness.keep().history().captures(drill.document()).stream()
              .filter(c -> c.state().equals(member.unit()))
              .findFirst()
              .map(BackupRecord::path)
              .ifPresent(
                  path ->
                      pieces.add(
                          new Piece(
                              harness.keep().absolute(path), member.content(), member.path())));
        }
        add(all, set.step(), true, pieces);
      }
      return all;
    }

    private void add(List<Survivor> all, long step, boolean held, List<Piece> pieces) {
      Role needed = rule().member(Role.RESTART).isPresent() ? Role.RESTART : Role.RESULT;
      boolean goesOn = pieces.stream().anyMatch(p -> role(p.relative()) == needed);
      boolean whole =
          pieces.stream()
              .allMatch(
                  p ->
                      inspector
                          .inspect(p.source(), Path.of(p.relative()).getFileName().toString())
                          .verdict()
                          .trustworthy());
      if (goesOn && whole) {
        all.add(new Survivor(step, held, pieces));
      }
    }

    @Nullable
    private Role role(String relative) {
      return rule().roleOf(Path.of(relative).getFileName().toString()).orElse(null);
    }

    private Place place(String relative) {
      Path path = Path.of(relative);
      String part =
          rule()
              .claim(
                  harness.live().getFileName().toString(),
                  Objects.toString(path.getParent(), ""),
                  path.getFileName().toString())
              .map(SetRule.Claim::part)
              .orElse("");
      return new Place(role(relative), part);
    }

    private Map<Long, List<Piece>> onDisk() throws IOException {
      Map<Long, List<Piece>> steps = new TreeMap<>();
      String setup = harness.live().getFileName().toString();
      for (Path folder : RunFolder.folders(disk, rule(), harness.live())) {
        String below = RelativePath.of(harness.live().getParent(), folder);
        for (Path file : disk.list(folder)) {
          String name = file.getFileName().toString();
          Optional<SetRule.Claim> claim = rule().claim(setup, below, name);
          if (claim.isPresent()) {
            Long step = claim.get().step();
            HealthReport inside = step == null ? inspector.inspect(file, name) : null;
            step = inside == null ? step : inside.inventory().step();
            if (step != null) {
              String relative = harness.live().getParent().relativize(file).toString();
              steps
                  .computeIfAbsent(step, s -> new ArrayList<>())
                  .add(new Piece(file, publisher.identify(file), relative));
            }
          }
        }
      }
      return steps;
    }

    /** What is not as it was computed, in words; empty if all of it is. */
    private String unlike(Beat truly, StepLayout layout) throws IOException {
      List<String> unlike = new ArrayList<>();
      for (Piece piece : layout.pieces()) {
        Path was = truly.played().files().get(piece.relative());
        if (was != null && !publisher.identify(was).equals(piece.content())) {
          unlike.add(piece.relative());
        }
      }
      return unlike.isEmpty() ? "" : "Not what was computed: " + String.join(", ", unlike) + ".";
    }

    /** Parts of the newest step's files that differ from those that came back. */
    @Nullable
    private Integer parts(Beat last, StepLayout layout, RecoveryTest.Difference difference)
        throws IOException {
      Map<Place, Path> newest = new HashMap<>();
      last.played().files().forEach((relative, file) -> newest.put(place(relative), file));
      int parts = 0;
      for (Piece piece : layout.pieces()) {
        Place place = place(piece.relative());
        Path truth = place.role() == null ? null : newest.get(place);
        if (truth != null) {
          Integer differ = difference.between(truth, layout.folder().resolve(piece.relative()));
          if (differ == null) {
            return null;
          }
          parts += differ;
        }
      }
      return parts;
    }

    @Nullable
    private Duration promised() {
      RunInputs inputs =
          new RunInputs(
              drill.aStep(), 1, 1, drill.steps().get(drill.steps().size() - 1).step(), 1, 1);
      return RunFigures.of(harness.plan(), inputs).lost();
    }
  }
}
