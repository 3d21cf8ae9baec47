package dev.kavrin.server.recoverytest;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.Outcome;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.JournalEntry.Rehearsed;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Proof;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.recoverytest.FailureMode;
import dev.kavrin.core.recoverytest.RecoveryTest;
import dev.kavrin.core.recoverytest.RunRecoveryTest;
import dev.kavrin.core.recoverytest.RunTestCase;
import dev.kavrin.core.recoverytest.TestCase;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.platform.Scratch;
import dev.kavrin.server.program.ProgramAudits;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.CopyView;
import dev.kavrin.server.version.VersionsView.StateView;
import dev.kavrin.standin.ActingProgram;
import dev.kavrin.standin.ActingSolver;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.locks.ReentrantLock;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** Crashes on purpose, on copies, with dated records. */
@Service
public class RecoveryTestService {
  private static final int STATES = 9;

  private final ProjectService projects;
  private final VersionService trail;
  private final ProgramAudits audits;
  private final RunSteps runSteps;
  private final RecoveryTests records;
  private final Scratch scratch;
  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final ReaderProcess reader;
  private final InstantSource clock;
  private final ReentrantLock one = new ReentrantLock();

  RecoveryTestService(
      ProjectService projects,
      VersionService trail,
      ProgramAudits audits,
      RunSteps runSteps,
      RecoveryTests records,
      Scratch scratch,
      Disk disk,
      Publisher publisher,
      Inspector inspector,
      ReaderProcess reader,
      InstantSource clock) {
    this.projects = projects;
    this.trail = trail;
    this.audits = audits;
    this.runSteps = runSteps;
    this.records = records;
    this.scratch = scratch;
    this.disk = disk;
    this.publisher = publisher;
    this.inspector = inspector;
    this.reader = reader;
    this.clock = clock;
  }

  /**
   * How a project's plan stands.
   *
   * @param at of the last rehearsal that held, null if there was none
   * @param asks true if it is time for one
   * @param words for the overview
   */
  public record Proven(@Nullable Instant at, boolean asks, String words) {}

  /** What rehearsals say of a project's plan. */
  public Proven proven(UUID project) {
    return proven(projects.byId(project), records.ofProject(project));
  }

  /** The same of many projects, by project. */
  public Map<UUID, Proven> proven(List<ProjectService.Project> of) {
    Map<UUID, List<Rehearsed>> all = records.all();
    return of.stream()
        .collect(
            Collectors.toMap(
                ProjectService.Project::id, p -> proven(p, all.getOrDefault(p.id(), List.of()))));
  }

  private Proven proven(ProjectService.Project there, List<Rehearsed> made) {
    List<Rehearsed> all = made.stream().filter(r -> r.proof() != null).toList();
    Optional<Rehearsed> failed =
        all.stream()
            .filter(r -> all.stream().noneMatch(l -> isLater(l, r)))
            .filter(r -> !r.proof().held())
            .findFirst();
    Optional<Rehearsed> held =
        all.stream()
            .filter(r -> r.proof().held() && !r.proof().by().equals(NightlyProof.BY))
            .findFirst();
    Instant at = held.map(Rehearsed::at).orElse(null);
    if (failed.isPresent()) {
      return new Proven(at, true, "The last recovery test failed: " + failed.get().proof().told());
    }
    if (held.isEmpty()) {
      return new Proven(null, true, "No recovery test of this plan was made.");
    }
    String plan = RecoveryTest.planDigest(there.planFor(held.get().document()));
    if (!held.get().proof().plan().equals(plan)) {
      return new Proven(at, true, "The plan was changed since its last recovery test.");
    }
    Duration askAfter = there.plan().proving().askAfter();
    boolean old = !askAfter.isZero() && at.plus(askAfter).isBefore(clock.instant());
    return new Proven(at, old, old ? "The last recovery test is long ago." : "Tested.");
  }

  /** A later rehearsal of the same document in the same way. */
  private static boolean isLater(Rehearsed later, Rehearsed than) {
    return later.document().equals(than.document())
        && later.proof().by().equals(than.proof().by())
        && later.proof().way().equals(than.proof().way())
        && later.at().isAfter(than.at());
  }

  List<Rehearsed> all(UUID document) {
    return records.ofDocument(document);
  }

  /**
   * A crash on purpose on a copy, with the stand-in for the program.
   *
   * @throws ProblemException there are not two whole states to play, or another one goes on
   */
  Rehearsed drill(UUID id, FailureMode way, String who) throws IOException {
    if (!one.tryLock()) {
      throw ProblemException.conflict("busy", "Another recovery test runs. Try again in a moment.");
    }
    try {
      Document document = projects.document(id);
      Kept kept = projects.kept(document.project());
      Proof proof =
          kept.project().isRun(document.path())
              ? run(kept, document, way)
              : file(kept, document, way);
      Rehearsed done = new Rehearsed(clock.instant(), Ids.next(clock.instant()), id, who, proof);
      records.record(done);
      return done;
    } finally {
      one.unlock();
    }
  }

  private static void checkWay(FailureMode way, ProjectRecord project, @Nullable Duration writes) {
    boolean own =
        writes != null
            && project.program().leftovers().stream()
                .anyMatch(l -> l.kind() == CopyKind.AUTOSAVE && l.folder().staysInside());
    if (way == FailureMode.MID_AUTOSAVE && !own) {
      throw ProblemException.badInput(
          "no-own-copies",
          project.program().name()
              + " makes no copies of its own that are known, so it cannot be killed making one."
              + " Nothing was touched.");
    }
  }

  private Proof file(Kept kept, Document document, FailureMode way) throws IOException {
    Duration writes = audits.writesEvery(kept);
    checkWay(way, kept.project(), writes);
    List<CopyView> copies = newest(document.id());
    long bytes = copies.stream().mapToLong(CopyView::size).sum();
    return scratch.with(
        4 * bytes,
        folder -> {
          List<Path> states = states(copies, folder);
          TestCase drill =
              new TestCase(kept.project(), document.id(), document.path(), states, way, writes);
          String name = document.live().getFileName().toString();
          return new RecoveryTest(disk, publisher, inspector, ActingProgram::new)
              .of(drill, folder, clock.instant(), (truth, back) -> difference(truth, back, name));
        });
  }

  private List<Path> states(List<CopyView> copies, Path folder) throws IOException {
    List<Path> states = new ArrayList<>();
    List<ContentId> seen = new ArrayList<>();
    disk.makeFolders(folder.resolve("states"));
    for (CopyView copy : copies) {
      Path state = folder.resolve("states").resolve("state-" + states.size());
      ContentId content = publisher.copy(Path.of(copy.path()), state);
      if (!seen.contains(content)) {
        seen.add(content);
        states.add(state);
      }
    }
    return states;
  }

  private Proof run(Kept kept, Document document, FailureMode way) throws IOException {
    if (way == FailureMode.MID_AUTOSAVE) {
      throw ProblemException.badInput(
          "no-own-copies",
          "A run writes its steps and no copies beside them, so it cannot be killed making one."
              + " Nothing was touched.");
    }
    List<RunSteps.Step> steps = runSteps.newest(document.id());
    return scratch.with(
        4 * RunSteps.bytes(steps),
        folder ->
            new RunRecoveryTest(disk, publisher, inspector, ActingSolver::new)
                .of(
                    new RunTestCase(
                        kept.project(),
                        document.id(),
                        document.path(),
                        document.live(),
                        steps.stream().map(RunSteps.Step::played).toList(),
                        RunSteps.aStep(steps),
                        way),
                    folder,
                    clock.instant(),
                    (truth, back) -> difference(truth, back, back.getFileName().toString())));
  }

  /** Parts that differ; null where no parts can be read. */
  @Nullable
  private Integer difference(Path truth, Path restored, String name) {
    Comparison comparison = reader.compare(truth, name, restored, name, null, share -> {});
    return comparison.bytes() != null
        ? null
        : (int) comparison.changes().stream().filter(c -> c.outcome() != Outcome.SAME).count();
  }

  /**
   * A reachable full copy of each of the newest whole states, oldest first; what stands under the
   * live name may be another by now, so any other copy goes before it.
   */
  private List<CopyView> newest(UUID document) {
    List<CopyView> copies = new ArrayList<>();
    for (StateView state : trail.whole(document).states()) {
      if (copies.size() < STATES
          && state.step() == null
          && Verdict.valueOf(state.verdict()).trustworthy()) {
        state.copies().stream()
            .filter(c -> c.leftOut().isEmpty() && c.fault() == null)
            .filter(c -> disk.isFile(Path.of(c.path())))
            .min(Comparator.comparing(c -> c.kind().equals(CopyKind.LIVE.name())))
            .ifPresent(copies::add);
      }
    }
    if (copies.size() < 2) {
      throw ProblemException.badInput(
          "too-few-states",
          "A recovery test plays earlier versions of this document again and needs two whole ones;"
              + " there are "
              + copies.size()
              + ". Copy what is on disk now, work on, and try again.");
    }
    Collections.reverse(copies);
    return copies;
  }
}
