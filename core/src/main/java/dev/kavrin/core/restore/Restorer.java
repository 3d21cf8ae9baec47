package dev.kavrin.core.restore;

import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.version.Manifest;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;

/** Restores a whole file and undoes it again; the present file is never lost. */
public final class Restorer {
  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final BackupFolder recovery;
  private final InstantSource clock;
  private final FreeNames names;
  private final RestorePlanner planner;

  public Restorer(
      Disk disk,
      Publisher publisher,
      Inspector inspector,
      BackupFolder recovery,
      InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.inspector = inspector;
    this.recovery = recovery;
    this.clock = clock;
    this.names = new FreeNames(disk);
    this.planner = new RestorePlanner(disk, publisher, clock);
  }

  /** Works out what this carries out. */
  public RestorePlanner planner() {
    return planner;
  }

  /** Carries out a layout: every file with a receipt of its own, none over anything that stands. */
  public List<Receipt> layOut(StepLayout layout, UUID document, String who) throws IOException {
    List<Receipt> receipts = new ArrayList<>();
    for (RestorePlan plan : planner.plans(layout)) {
      receipts.add(restore(plan, document, CopyKind.CAPTURE, who, false));
    }
    return receipts;
  }

  /**
   * Carries out a plan.
   *
   * @throws ChangedMeanwhileException copy or target is not what the plan saw
   * @throws NoRoomException too little room
   */
  public Receipt restore(
      RestorePlan plan, UUID document, CopyKind kind, String who, boolean programRuns)
      throws IOException {
    return restore(new Order(UUID.randomUUID(), plan, document, kind, null), who, programRuns);
  }

  /**
   * One restore.
   *
   * @param op its number in the journal
   * @param kind of copy it is taken from
   * @param parts what was brought into its source from other states, in words; null for a whole
   *     state
   */
  public record Order(
      UUID op, RestorePlan plan, UUID document, CopyKind kind, @Nullable List<String> parts) {}

  public Receipt restore(Order order, String who, boolean programRuns) throws IOException {
    try {
      layReady(order);
      return put(order, who, programRuns);
    } catch (IOException | RuntimeException failed) {
      giveUp(order, failed);
      throw failed;
    }
  }

  /** Makes everything ready and touches nothing that a person has; may take long. */
  void layReady(Order order) throws IOException {
    RestorePlan plan = order.plan();
    checkUnchanged(plan);
    begin(
        order.op(),
        JournalEntry.Deed.RESTORE,
        order.document(),
        plan.source(),
        plan.target(),
        plan.aside());
    if (plan.aside() != null) {
      publisher.layReady(plan.source(), plan.aside(), asPlanned(plan));
    }
  }

  /**
   * Takes back what was made ready, and put in place though not to the end. Where that cannot be
   * done now, the next start does it. A file whose name was taken meanwhile is another's and stays,
   * whatever it holds.
   */
  void giveUp(Order order, Exception why) {
    RestorePlan plan = order.plan();
    if (recovery.history().undone().stream().noneMatch(i -> i.op().equals(order.op()))) {
      return;
    }
    try {
      boolean somebodyElses = why instanceof FileAlreadyExistsException;
      if (plan.aside() == null && !somebodyElses) {
        publisher.takeAway(plan.target(), plan.source());
      } else if (plan.aside() != null && !somebodyElses) {
        if (holds(plan.target(), plan) && !holds(plan.aside(), plan)) {
          publisher.swap(plan.target(), plan.aside());
        }
        publisher.takeAway(plan.aside(), plan.source());
      }
      recovery.record(new JournalEntry.Abandoned(clock.instant(), order.op(), String.valueOf(why)));
    } catch (IOException second) {
      why.addSuppressed(second);
    }
  }

  private boolean holds(Path file, RestorePlan plan) throws IOException {
    return disk.facts(file).isPresent() && publisher.identify(file).equals(plan.content());
  }

  /** Puts what was made ready in place. */
  Receipt put(Order order, String who, boolean programRuns) throws IOException {
    RestorePlan plan = order.plan();
    ContentId former = null;
    String told = "";
    if (plan.aside() != null) {
      FileFacts before = disk.facts(plan.target()).orElseThrow();
      former =
          publisher.exchange(
              plan.target(),
              plan.aside(),
              programRuns
                  ? Publisher.WithoutExchange.REFUSE
                  : Publisher.WithoutExchange.COPY_THEN_RENAME);
      told =
          former.equals(plan.present())
              ? ""
              : "The file was saved again at the last moment; that save stands aside too ("
                  + before.size()
                  + " B before).";
    } else {
      disk.makeFolders(plan.target().getParent());
      publisher.copyLike(plan.source(), plan.target(), plan.like(), asPlanned(plan));
    }
    return finish(
        order.op(),
        order.document(),
        who,
        plan.mode().name().toLowerCase(java.util.Locale.ROOT),
        plan.source(),
        plan.target(),
        plan.aside(),
        former,
        told,
        order.kind(),
        order.parts());
  }

  /** What is read while it is copied is what the plan saw, or it gets no name. */
  private static Publisher.Gate asPlanned(RestorePlan plan) {
    return (stage, content) -> {
      if (!content.equals(plan.content())) {
        throw new ChangedMeanwhileException(plan.source(), "was changed since it was shown");
      }
    };
  }

  /**
   * Told by its time and size where those are as they were; its bytes are read again when it was
   * swapped out, and told of if they are others.
   */
  private boolean isAsPlanned(RestorePlan plan) throws IOException {
    return disk.facts(plan.target()).filter(f -> f.sameAs(plan.presentFacts())).isPresent()
        || publisher.identify(plan.target()).equals(plan.present());
  }

  private void checkUnchanged(RestorePlan plan) throws IOException {
    boolean there = disk.facts(plan.target()).isPresent();
    if (there != (plan.present() != null)) {
      throw new ChangedMeanwhileException(
          plan.target(), there ? "appeared meanwhile" : "vanished meanwhile");
    }
    if (there && !isAsPlanned(plan)) {
      throw new ChangedMeanwhileException(plan.target(), "was saved since it was shown");
    }
    Path folder = FreeNames.standing(disk, plan.target().getParent());
    long free = disk.room(folder);
    if (free < plan.bytes()) {
      throw new NoRoomException(folder, plan.bytes(), free);
    }
  }

  /** True if what a receipt tells of is how things stand now, so that it can be taken back. */
  boolean stillStands(Receipt receipt) throws IOException {
    Path target = Path.of(receipt.target());
    boolean there = disk.facts(target).isPresent();
    if (movedAway(receipt)) {
      return !there && disk.facts(Path.of(receipt.aside())).isPresent();
    }
    return there && publisher.identify(target).equals(receipt.content());
  }

  /** An undo after which nothing stands at the target. */
  private static boolean movedAway(Receipt receipt) {
    return receipt.mode().equals("undo") && receipt.content().equals(receipt.former());
  }

  /** Takes a restore back: the file that stood aside is live again, the restored one aside. */
  public Receipt undo(Receipt receipt, String who) throws IOException {
    return undo(UUID.randomUUID(), receipt, who);
  }

  /**
   * @param op its number in the journal
   */
  Receipt undo(UUID op, Receipt receipt, String who) throws IOException {
    Path target = Path.of(receipt.target());
    boolean replaced = receipt.aside() != null;
    Path aside = replaced ? Path.of(receipt.aside()) : names.aside(target, "-undone");
    if (replaced && disk.facts(aside).isEmpty()) {
      throw new NoSuchFileException(aside.toString());
    }
    boolean live = disk.facts(target).isPresent();
    begin(op, JournalEntry.Deed.UNDO, receipt.document(), aside, target, aside);
    String told = "";
    if (live && !publisher.identify(target).equals(receipt.content())) {
      told = "The file was saved after the restore; that save now stands aside.";
    }
    if (!replaced) {
      publisher.move(target, aside);
      return finishMoved(op, receipt, who, aside, told);
    }
    if (!live) {
      publisher.move(aside, target);
      return finish(
          op,
          receipt.document(),
          who,
          "undo",
          aside,
          target,
          null,
          null,
          told,
          CopyKind.ASIDE,
          receipt.parts());
    }
    if (!publisher.swap(target, aside)) {
      throw new IOException("This drive cannot swap two names in one step. Nothing was touched");
    }
    return finish(
        op,
        receipt.document(),
        who,
        "undo",
        aside,
        target,
        aside,
        publisher.identify(aside),
        told,
        CopyKind.ASIDE,
        receipt.parts());
  }

  /**
   * Looks up on disk how far a restore came before Kavrin was killed. The target is whole either
   * way; what stands aside stays.
   *
   * @return the receipt if it had been carried out
   */
  public Optional<Receipt> settle(JournalEntry.Intent intent) throws IOException {
    Path source = Path.of(intent.from());
    Path target = Path.of(intent.to());
    clearStages(target.getParent());
    if (intent.aside() != null) {
      clearStages(Path.of(intent.aside()).getParent());
    }
    boolean done =
        intent.deed() == JournalEntry.Deed.RESTORE
            && disk.facts(source).isPresent()
            && disk.facts(target).isPresent()
            && publisher.identify(target).equals(publisher.identify(source));
    if (!done) {
      if (intent.deed() == JournalEntry.Deed.RESTORE
          && intent.aside() != null
          && disk.facts(source).isPresent()) {
        publisher.takeAway(Path.of(intent.aside()), source);
      }
      recovery.record(
          new JournalEntry.Abandoned(
              clock.instant(), intent.op(), "not carried out before a stop"));
      return Optional.empty();
    }
    Path aside = intent.aside() == null ? null : Path.of(intent.aside());
    boolean stands = aside != null && disk.facts(aside).isPresent();
    return Optional.of(
        finish(
            intent.op(),
            intent.document(),
            "Kavrin",
            "replace",
            source,
            target,
            stands ? aside : null,
            stands ? publisher.identify(aside) : null,
            "Completed after Kavrin was stopped midway.",
            CopyKind.CAPTURE,
            null));
  }

  private void begin(UUID op, JournalEntry.Deed deed, UUID document, Path from, Path to, Path aside)
      throws IOException {
    recovery.record(
        new JournalEntry.Intent(
            clock.instant(),
            op,
            deed,
            document,
            from.toString(),
            to.toString(),
            aside == null ? null : aside.toString()));
  }

  private void clearStages(Path folder) throws IOException {
    if (disk.facts(folder).isPresent()) {
      publisher.clearStages(folder);
    }
  }

  private Receipt finishMoved(UUID op, Receipt of, String who, Path aside, String told)
      throws IOException {
    Receipt receipt =
        new Receipt(
            of.document(),
            who,
            "undo",
            of.state(),
            of.target(),
            of.target(),
            aside.toString(),
            of.content(),
            of.content(),
            of.verdict(),
            told,
            CopyKind.ASIDE,
            of.parts());
    recovery.record(new JournalEntry.Restored(clock.instant(), op, receipt));
    return receipt;
  }

  private Receipt finish(
      UUID op,
      UUID document,
      String who,
      String mode,
      Path source,
      Path target,
      Path aside,
      ContentId former,
      String told,
      CopyKind kind,
      @Nullable List<String> parts)
      throws IOException {
    ContentId content = publisher.identify(target);
    HealthReport report = inspector.inspect(target, target.getFileName().toString());
    Receipt receipt =
        new Receipt(
            document,
            who,
            mode,
            Manifest.ofFile(content).digest(),
            source.toString(),
            target.toString(),
            aside == null ? null : aside.toString(),
            content,
            former,
            report.verdict(),
            told,
            kind,
            parts);
    recovery.record(new JournalEntry.Restored(clock.instant(), op, receipt));
    return receipt;
  }
}
