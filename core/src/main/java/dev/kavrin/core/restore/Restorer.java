package dev.kavrin.core.restore;

import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.Operation.Change;
import dev.kavrin.core.journal.Operation.Replacement;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.version.Manifest;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;

/** Restores whole files and undoes it again; the present file is never lost. */
public final class Restorer {
  /** Mode of a receipt that takes another back. */
  static final String UNDO = "undo";

  private final Disk disk;
  private final Publisher publisher;
  private final BackupFolder folder;
  private final FreeNames names;
  private final RestorePlanner planner;
  private final RestoreRun run;

  public Restorer(
      Disk disk,
      Publisher publisher,
      Inspector inspector,
      BackupFolder folder,
      InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.folder = folder;
    this.names = new FreeNames(disk);
    this.planner = new RestorePlanner(disk, publisher, clock);
    this.run = new RestoreRun(disk, publisher, inspector, folder, clock);
  }

  /** Works out what this carries out. */
  public RestorePlanner planner() {
    return planner;
  }

  /**
   * One restore.
   *
   * @param op its number in the journal
   * @param kind of copy it is taken from
   * @param parts what was brought into its source from other versions, in words; null for a whole
   *     version
   */
  public record Order(
      UUID op, RestorePlan plan, UUID document, CopyKind kind, @Nullable List<String> parts) {
    public Order(RestorePlan plan, UUID document, CopyKind kind) {
      this(UUID.randomUUID(), plan, document, kind, null);
    }
  }

  /** Carries out a layout, all or nothing: every file with a receipt of its own. */
  public List<Receipt> layOut(StepLayout layout, UUID document, String who) throws IOException {
    List<Order> orders =
        planner.plans(layout).stream()
            .map(plan -> new Order(plan, document, CopyKind.CAPTURE))
            .toList();
    return restore(UUID.randomUUID(), orders, null, who);
  }

  /**
   * Carries out a plan.
   *
   * @throws ChangedMeanwhileException copy or target is not what the plan saw
   * @throws NoRoomException too little room
   */
  public Receipt restore(Order order, String who) throws IOException {
    return restore(order.op(), List.of(order), null, who).get(0);
  }

  /**
   * Several as one.
   *
   * @param id of the operation, new
   */
  List<Receipt> restore(UUID id, List<Order> orders, @Nullable Operation.Group group, String who)
      throws IOException {
    for (Order order : orders) {
      checkUnchanged(order.plan());
    }
    checkRoom(orders.stream().map(Order::plan).toList());
    List<Replacement> members = orders.stream().map(o -> replacement(o, who)).toList();
    return run.carryOut(new Operation(id, new Operation.Restore(members, group)));
  }

  private static Replacement replacement(Order order, String who) {
    RestorePlan plan = order.plan();
    Receipt planned =
        new Receipt(
            order.document(),
            who,
            plan.mode().name().toLowerCase(Locale.ROOT),
            Manifest.ofFile(plan.content()).digest(),
            plan.source().toString(),
            plan.target().toString(),
            plan.aside() == null ? null : plan.aside().toString(),
            plan.content(),
            plan.present(),
            Verdict.NOT_CHECKED,
            lost(plan),
            order.kind(),
            order.parts());
    return new Replacement(
        order.op(),
        planned,
        plan.aside() == null ? Change.CREATE : Change.REPLACE,
        plan.like().toString());
  }

  private static String lost(RestorePlan plan) {
    return plan.cannotKeep().isEmpty()
        ? ""
        : "Could not be kept: " + String.join(", ", plan.cannotKeep()) + ".";
  }

  /** Told by its time and size where those are as they were; else its bytes are read again. */
  private void checkUnchanged(RestorePlan plan) throws IOException {
    boolean there = disk.facts(plan.target()).isPresent();
    if (there != (plan.present() != null)) {
      throw new ChangedMeanwhileException(
          plan.target(), there ? "appeared meanwhile" : "vanished meanwhile");
    }
    boolean asPlanned =
        !there
            || disk.facts(plan.target()).filter(f -> f.sameAs(plan.presentFacts())).isPresent()
            || publisher.identify(plan.target()).equals(plan.present());
    if (!asPlanned) {
      throw new ChangedMeanwhileException(plan.target(), "was saved since it was shown");
    }
  }

  /** Room for all together, on each device. */
  private void checkRoom(List<RestorePlan> plans) throws IOException {
    Map<String, Long> wanted = new HashMap<>();
    for (RestorePlan plan : plans) {
      Path folder = FreeNames.standing(disk, plan.target().getParent());
      long all = wanted.merge(disk.device(folder), plan.room(), Long::sum);
      long free = disk.room(folder);
      if (free < all) {
        throw new NoRoomException(folder, all, free);
      }
    }
  }

  /** Takes a restore back: the file that stood aside is live again, the restored one aside. */
  public Receipt undo(Receipt receipt, String who) throws IOException {
    return undo(UUID.randomUUID(), List.of(receipt), null, who).get(0);
  }

  /** Takes several back as one, in the given order. */
  List<Receipt> undo(UUID id, List<Receipt> receipts, @Nullable Operation.Group group, String who)
      throws IOException {
    List<Replacement> members = new ArrayList<>();
    for (Receipt receipt : receipts) {
      members.add(undoing(receipt, receipts.size() == 1 ? id : UUID.randomUUID(), who));
    }
    return run.carryOut(new Operation(id, new Operation.Restore(members, group)));
  }

  private Replacement undoing(Receipt receipt, UUID id, String who) throws IOException {
    Path target = folder.named(receipt.target());
    boolean live = disk.facts(target).isPresent();
    if (receipt.aside() == null) {
      Path aside = names.aside(target, "-undone");
      Receipt moved = undone(receipt, who, target, aside, receipt.content(), receipt.content(), "");
      return new Replacement(id, moved, Change.MOVE_ASIDE, null);
    }
    Path aside = folder.named(receipt.aside());
    FileFacts stands =
        disk.facts(aside).orElseThrow(() -> new NoSuchFileException(aside.toString()));
    ContentId back = publisher.identify(aside);
    if (!live) {
      Receipt moved = undone(receipt, who, aside, aside, back, null, "");
      return new Replacement(id, moved, Change.MOVE_BACK, null);
    }
    ContentId present = publisher.identify(target);
    String told =
        present.equals(receipt.content())
            ? ""
            : "The file was saved after the restore; that save now stands aside.";
    if (planner.abilities(target.getParent()).replacesInOneStep()) {
      Receipt swapped = undone(receipt, who, aside, aside, back, present, told);
      return new Replacement(id, swapped, Change.SWAP, null);
    }
    requireRoom(target.getParent(), stands.size());
    Path fresh = names.aside(target, "-undone");
    Receipt copied = undone(receipt, who, aside, fresh, back, present, told);
    return new Replacement(id, copied, Change.REPLACE, null);
  }

  private void requireRoom(Path folder, long bytes) throws IOException {
    long free = disk.room(folder);
    if (free < bytes) {
      throw new NoRoomException(folder, bytes, free);
    }
  }

  private static Receipt undone(
      Receipt of,
      String who,
      Path source,
      Path aside,
      ContentId content,
      @Nullable ContentId former,
      String told) {
    return new Receipt(
        of.document(),
        who,
        UNDO,
        Manifest.ofFile(content).digest(),
        source.toString(),
        of.target(),
        aside.toString(),
        content,
        former,
        of.verdict(),
        told,
        CopyKind.ASIDE,
        of.parts());
  }
}
