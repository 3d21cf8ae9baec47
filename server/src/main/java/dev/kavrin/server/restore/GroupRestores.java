package dev.kavrin.server.restore;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.incident.OpenDocument;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.restore.GroupRestore;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer.Order;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.restore.RestoreService.ReceiptView;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Restores several documents of a project as one: all or none, undone as one. */
@Service
class GroupRestores {
  private final ProjectService projects;
  private final VersionService trail;
  private final VersionFiles files;
  private final JournalFollower follower;
  private final GroupRow.Repository groups;
  private final ReceiptRow.Repository receipts;
  private final DocumentLocks locks;
  private final Disk disk;
  private final InstantSource clock;

  GroupRestores(
      ProjectService projects,
      VersionService trail,
      VersionFiles files,
      JournalFollower follower,
      GroupRow.Repository groups,
      ReceiptRow.Repository receipts,
      DocumentLocks locks,
      Disk disk,
      InstantSource clock) {
    this.projects = projects;
    this.trail = trail;
    this.files = files;
    this.follower = follower;
    this.groups = groups;
    this.receipts = receipts;
    this.locks = locks;
    this.disk = disk;
    this.clock = clock;
  }

  /** A document, the state to take, and where to. */
  record Wish(UUID document, String state, RestoreMode mode) {}

  /**
   * What will happen to one file.
   *
   * @param aside where the present file goes, null if none is in the way
   */
  record Item(UUID document, String source, String target, @Nullable String aside, long bytes) {}

  /**
   * What will happen.
   *
   * @param digest send back to apply exactly this
   * @param alike documents whose file holds that state already; nothing is done with them
   */
  record GroupPreview(
      String digest,
      List<Item> items,
      List<String> alike,
      long bytes,
      long free,
      boolean fits,
      double seconds,
      List<OpenOne> open) {}

  /** One of the files that may be open somewhere. */
  record OpenOne(String target, Kept.OpenNow open) {}

  /**
   * What was done.
   *
   * @param done false if everything is as it was before, null while it goes on
   * @param undoes the group this took back
   */
  record GroupView(
      UUID id,
      Instant made,
      String who,
      String what,
      @Nullable Boolean done,
      String told,
      @Nullable UUID undoes,
      List<ReceiptView> receipts) {}

  private record Prepared(List<Order> orders, List<String> alike, String digest) {
    long bytes() {
      return orders.stream().mapToLong(o -> o.plan().bytes()).sum();
    }
  }

  GroupPreview preview(UUID project, List<Wish> wishes) throws IOException {
    Kept kept = projects.kept(project);
    Prepared p = prepare(kept, wishes);
    long free = p.orders().stream().mapToLong(o -> o.plan().free()).min().orElse(0);
    long moved =
        p.orders().stream()
            .mapToLong(o -> o.plan().bytes() * (o.plan().aside() == null ? 2 : 3))
            .sum();
    return new GroupPreview(
        p.digest(),
        p.orders().stream().map(o -> item(o.document(), o.plan())).toList(),
        p.alike(),
        p.bytes(),
        free,
        p.orders().isEmpty() || free >= p.bytes(),
        moved / (double) RestoreService.rate(kept),
        p.orders().stream()
            .map(o -> new OpenOne(o.plan().target().toString(), kept.open(o.document())))
            .filter(o -> o.open().mayHoldWork() || o.open().state() == OpenDocument.State.ELSEWHERE)
            .toList());
  }

  private static Item item(UUID document, RestorePlan plan) {
    return new Item(
        document,
        plan.source().toString(),
        plan.target().toString(),
        plan.aside() == null ? null : plan.aside().toString(),
        plan.bytes());
  }

  private Prepared prepare(Kept kept, List<Wish> wishes) throws IOException {
    List<Order> orders = new ArrayList<>();
    List<String> alike = new ArrayList<>();
    for (Wish wish : wishes) {
      Document document = projects.document(wish.document());
      if (!document.project().equals(kept.project().id())) {
        throw ProblemException.badInput(
            "other-project", document.path() + " is of another project. Nothing was touched.");
      }
      if (trail.state(wish.document(), wish.state()).step() != null) {
        orders.addAll(step(kept, document, wish.state()));
      } else {
        Order order = whole(kept, document, wish);
        if (order.plan().content().equals(order.plan().present())) {
          alike.add(document.path());
        } else {
          orders.add(order);
        }
      }
    }
    String digest =
        ContentHash.of(
                orders.stream().map(o -> o.plan().digest()).collect(Collectors.joining("\0")))
            .digest();
    return new Prepared(orders, alike, digest);
  }

  private Order whole(Kept kept, Document document, Wish wish) throws IOException {
    VersionsView.CopyView copy = trail.bestCopy(document.id(), wish.state());
    RestorePlan plan =
        kept.restorer()
            .planner()
            .plan(
                wish.mode(),
                Path.of(copy.path()),
                document.live(),
                copy.modified(),
                ZoneId.of(kept.project().zone()));
    return new Order(
        UUID.randomUUID(), plan, document.id(), CopyKind.valueOf(copy.originKind()), null);
  }

  /** The files of a step, laid out in a folder of their own, so that the run can go on. */
  private List<Order> step(Kept kept, Document document, String state) throws IOException {
    VersionsView.StateView view = trail.state(document.id(), state);
    StepLayout layout =
        kept.restorer()
            .planner()
            .layout(
                files.pieces(document.id(), state),
                document.live().getParent(),
                Path.of(kept.project().folder()),
                String.format(Locale.ROOT, "from-step-%04d", view.step().step()));
    return kept.restorer().planner().plans(layout).stream()
        .map(p -> new Order(UUID.randomUUID(), p, document.id(), CopyKind.CAPTURE, null))
        .toList();
  }

  /**
   * @param digest of the preview the person saw
   * @throws ProblemException it would do something else now
   */
  GroupView restore(UUID project, String what, List<Wish> wishes, String digest, String who)
      throws IOException {
    List<UUID> documents = wishes.stream().map(Wish::document).toList();
    UUID group = Ids.next(clock.instant());
    locks.locked(
        documents,
        () -> {
          Kept kept = projects.kept(project);
          Prepared p = prepare(kept, wishes);
          if (!p.digest().equals(digest)) {
            throw RestoreService.changedMeanwhile();
          }
          GroupRestore.GroupOrder order =
              new GroupRestore.GroupOrder(group, project, what, p.orders());
          return done(() -> of(kept).restore(order, who));
        });
    return seen(group, documents);
  }

  /** Takes a group back; an undo too. */
  GroupView undo(UUID id, String who) throws IOException {
    GroupView before = seen(row(id));
    if (!Boolean.TRUE.equals(before.done())) {
      throw ProblemException.conflict(
          "not-done", "Of that nothing was done, so there is nothing to take back.");
    }
    List<Receipt> done = before.receipts().stream().map(ReceiptView::receipt).toList();
    List<UUID> documents = done.stream().map(Receipt::document).distinct().toList();
    UUID group = Ids.next(clock.instant());
    locks.locked(
        documents,
        () -> {
          Kept kept = projects.kept(projects.document(documents.get(0)).project());
          return done(
              () -> of(kept).undo(group, kept.project().id(), id, before.what(), done, who));
        });
    return seen(group, documents);
  }

  /** What was begun is recorded, however it ended. */
  private <T> T done(DocumentLocks.Work<T> work) throws IOException {
    try {
      return work.run();
    } finally {
      follower.follow();
    }
  }

  private GroupView seen(UUID group, List<UUID> documents) throws IOException {
    documents.forEach(trail::look);
    return seen(row(group));
  }

  private GroupRestore of(Kept kept) {
    return new GroupRestore(kept.restorer());
  }

  /** Newest first. */
  List<GroupView> all(UUID project) {
    return groups.findByProjectIdOrderByMadeDesc(projects.key(project)).stream()
        .map(this::seen)
        .toList();
  }

  private GroupRow row(UUID id) {
    return groups
        .findByUuid(id)
        .orElseThrow(() -> ProblemException.notFound("No such restore of several documents."));
  }

  private GroupView seen(GroupRow row) {
    List<UUID> ops = JsonMapper.shared().readValue(row.ops, new TypeReference<List<UUID>>() {});
    List<ReceiptView> made =
        receipts.findByUuidIn(ops).stream()
            .map(RestoreService::seen)
            .sorted(Comparator.comparing(r -> ops.indexOf(r.id())))
            .toList();
    return new GroupView(
        row.uuid, row.made, row.who, row.what, row.done, row.told, row.undoes, made);
  }
}
