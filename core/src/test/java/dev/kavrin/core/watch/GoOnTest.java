package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.restore.ChangedMeanwhileException;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.core.restore.StepLayout.Piece;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** Going on beside the present file, and from a step: nothing that stands is ever touched. */
class GoOnTest extends EngineFixture {
  private JournalEntry.Receipt goOn(RestoreMode mode) throws IOException {
    RestorePlan plan = restorer.planner().plan(mode, live, live, now, ZoneOffset.UTC);
    return restorer.restore(new Restorer.Order(plan, DOCUMENT, CopyKind.LIVE), "Bram Odell");
  }

  @Test
  void theNextNumberAndATrialAreFreeNamesAndTheLiveFileStays() throws IOException {
    write(live, model(1));
    write(live.resolveSibling("carriage-03.glb"), model(9));
    JournalEntry.Receipt next = goOn(RestoreMode.NEXT);
    assertThat(next.target()).endsWith("/carriage-04.glb");
    assertThat(next.mode()).isEqualTo("next");
    JournalEntry.Receipt trial = goOn(RestoreMode.BRANCH);
    assertThat(trial.target()).endsWith("/carriage-02-trial.glb");
    assertThat(goOn(RestoreMode.BRANCH).target()).endsWith("/carriage-02-trial-2.glb");
    assertThat(Path.of(trial.target())).hasSameBinaryContentAs(live);
    assertThat(live).hasBinaryContent(model(1));
    assertThat(live.resolveSibling("carriage-03.glb")).hasBinaryContent(model(9));
    write(Path.of(trial.target()), model(5));
    JournalEntry.Receipt undone = restorer.undo(trial, "Bram Odell");
    assertThat(Path.of(trial.target())).doesNotExist();
    assertThat(Path.of(undone.aside()))
        .as("what was tried stands aside")
        .hasBinaryContent(model(5));
  }

  @Test
  void aFileThatIsSavedMeanwhileIsNotGoneOnFrom() throws IOException {
    write(live, model(1));
    RestorePlan plan = restorer.planner().plan(RestoreMode.NEXT, live, live, now, ZoneOffset.UTC);
    write(live, model(2));
    assertThatThrownBy(
            () -> restorer.restore(new Restorer.Order(plan, DOCUMENT, CopyKind.LIVE), "Bram Odell"))
        .isInstanceOf(ChangedMeanwhileException.class);
    assertThat(live.resolveSibling("carriage-03.glb")).doesNotExist();
  }

  private Piece piece(String name, int n) throws IOException {
    Path source = root.resolve("copies/" + name.replace('/', '_'));
    write(source, model(n));
    return new Piece(source, ContentHash.of(model(n)), name);
  }

  @Test
  void aStepIsLaidOutInAFolderOfItsOwnAndNeverTwiceInTheSame() throws IOException {
    Path run = Files.createDirectories(live.resolveSibling("run-a"));
    List<Piece> pieces = List.of(piece("disc.json", 1), piece("restart/disc-0120.h5", 2));
    Path project = live.getParent();
    StepLayout layout = restorer.planner().layout(pieces, run, project, "from-step-0120");
    assertThat(layout.folder()).isEqualTo(project.resolve("run-a-from-step-0120"));
    List<JournalEntry.Receipt> receipts = restorer.layOut(layout, DOCUMENT, "Tove Asgrim");
    assertThat(receipts).hasSize(2).allMatch(r -> r.aside() == null);
    assertThat(layout.folder().resolve("restart/disc-0120.h5")).hasBinaryContent(model(2));
    assertThat(recovery.history().undone()).isEmpty();
    StepLayout again = restorer.planner().layout(pieces, run, project, "from-step-0120");
    assertThat(again.folder()).isEqualTo(project.resolve("run-a-from-step-0120-2"));
    assertThatThrownBy(() -> restorer.layOut(layout, DOCUMENT, "Tove Asgrim"))
        .as("its folder stands already")
        .isInstanceOf(IOException.class);
    assertThat(restorer.planner().layout(pieces, project, project, "from-step-0120").folder())
        .as("where the run is the whole project, it stays inside")
        .isEqualTo(project.resolve("from-step-0120"));
  }

  @Test
  void aPieceThatLeadsOutIsRefusedBeforeAnythingIsMade() throws IOException {
    List<Piece> pieces = List.of(piece("disc.json", 1), piece("../../escaped.h5", 2));
    assertThatThrownBy(
            () ->
                restorer
                    .planner()
                    .layout(pieces, live.getParent(), live.getParent(), "from-step-1"))
        .hasMessageContaining("leads out");
    assertThat(live.resolveSibling("from-step-1")).doesNotExist();
  }

  @Test
  void aCopyThatRottedIsNotLaidOut() throws IOException {
    Piece rotten = piece("disc.json", 1);
    write(rotten.source(), model(7));
    StepLayout layout =
        restorer
            .planner()
            .layout(List.of(rotten), live.getParent(), live.getParent(), "from-step-1");
    assertThatThrownBy(() -> restorer.layOut(layout, DOCUMENT, "Tove Asgrim"))
        .isInstanceOf(ChangedMeanwhileException.class);
    assertThat(layout.folder().resolve("disc.json")).doesNotExist();
  }

  @Test
  void aNewNumberIsAChainWithTheOneBeforeItAndATrialIsNot() throws IOException {
    UUID three = new UUID(5, 3);
    UUID trial = new UUID(5, 4);
    recoveries.record(new JournalEntry.DocumentSet(now, three, project.id(), "carriage-03.glb"));
    recoveries.record(
        new JournalEntry.DocumentSet(now, trial, project.id(), "carriage-02-trial.glb"));
    recoveries.record(
        new JournalEntry.DocumentSet(now, new UUID(5, 5), project.id(), "old/carriage-01.glb"));
    assertThat(SaveAsSeries.of("carriage-03.glb", recovery.history().documents(project.id())))
        .extracting(JournalEntry.DocumentSet::path)
        .containsExactly("carriage-02.glb", "carriage-03.glb");
  }

  @Test
  void aRecoveryFoldersPaceIsKnownOnceACopyTellsIt() throws IOException {
    assertThat(recoveries.rate(recovery)).isEmpty();
    write(live, model(1));
    pass(Duration.ofMinutes(12));
    assertThat(recoveries.rate(recovery)).as("a small file tells nothing").isEmpty();
    recoveries.measured(recovery, 10_000_000, Duration.ofSeconds(5));
    assertThat(recoveries.rate(recovery)).hasValue(2_000_000);
    recoveries.measured(recovery, 10_000_000, Duration.ofSeconds(1));
    assertThat(recoveries.rate(recovery).getAsLong()).isBetween(2_000_001L, 9_999_999L);
  }
}
