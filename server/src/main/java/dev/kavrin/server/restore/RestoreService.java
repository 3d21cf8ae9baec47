package dev.kavrin.server.restore;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/** Restores, one at a time for a document. */
@Service
public class RestoreService {
  private static final long BYTES_PER_SECOND = 150_000_000;

  private final ProjectService projects;
  private final VersionService trail;
  private final VersionFiles files;
  private final JournalFollower follower;
  private final ReceiptRow.Repository receipts;
  private final DocumentLocks locks;
  private final PathGuard guard;

  RestoreService(
      ProjectService projects,
      VersionService trail,
      VersionFiles files,
      JournalFollower follower,
      ReceiptRow.Repository receipts,
      DocumentLocks locks,
      PathGuard guard) {
    this.projects = projects;
    this.trail = trail;
    this.files = files;
    this.follower = follower;
    this.receipts = receipts;
    this.locks = locks;
    this.guard = guard;
  }

  /**
   * What will happen.
   *
   * @param digest send back to apply exactly this
   * @param seconds how long it will take, estimated
   * @param cannotKeep what of owner and permissions cannot be given to the new file, in words
   * @param copiesPresent true if the present file is copied aside first, because the folder cannot
   *     swap two names
   */
  public record Preview(
      String digest,
      RestoreMode mode,
      String source,
      String target,
      @Nullable String aside,
      long bytes,
      long free,
      boolean fits,
      double seconds,
      Kept.OpenNow open,
      String sourceKind,
      List<String> leftOut,
      List<String> cannotKeep,
      boolean copiesPresent) {}

  /** A receipt with its id. */
  public record ReceiptView(UUID id, Instant made, Receipt receipt) {}

  private record Prepared(RestorePlan plan, VersionsView.CopyView copy, Kept kept) {}

  /**
   * @param of the document whose state it is, null for the same
   * @param folder where it goes if it goes elsewhere, else null
   */
  public Preview preview(
      UUID document, @Nullable UUID of, String state, RestoreMode mode, @Nullable String folder)
      throws IOException {
    Prepared p = prepare(document, of, state, mode, folder);
    RestorePlan plan = p.plan();
    long moved = plan.room() + plan.bytes() * (plan.aside() == null ? 1 : 2);
    return new Preview(
        plan.digest(),
        mode,
        plan.source().toString(),
        plan.target().toString(),
        plan.aside() == null ? null : plan.aside().toString(),
        plan.room(),
        plan.free(),
        plan.fits(),
        moved / (double) rate(p.kept()),
        p.kept().open(document),
        p.copy().originKind(),
        p.copy().leftOut(),
        plan.cannotKeep(),
        plan.room() > plan.bytes());
  }

  private Prepared prepare(
      UUID id, @Nullable UUID of, String state, RestoreMode mode, @Nullable String folder)
      throws IOException {
    Document document = projects.document(id);
    Kept kept = projects.kept(document.project());
    VersionsView.CopyView copy = trail.bestCopy(of == null ? id : of, state);
    RestorePlan plan =
        kept.restorer()
            .planner()
            .plan(
                mode,
                Path.of(copy.path()),
                document.live(),
                copy.modified(),
                ZoneId.of(kept.project().zone()),
                folder == null ? document.live().getParent() : guard.targetFolder(folder));
    return new Prepared(plan, copy, kept);
  }

  /** Bytes a second that copies of this project take. */
  static long rate(Kept kept) {
    List<BackupRecord> timed =
        kept.folder().history().allCaptures().stream().filter(c -> c.millis() > 0).toList();
    long millis = timed.stream().mapToLong(BackupRecord::millis).sum();
    long bytes = timed.stream().mapToLong(c -> c.content().length()).sum();
    return millis == 0 ? BYTES_PER_SECOND : Math.max(1, bytes * 1000 / millis);
  }

  /**
   * @param digest of the preview the person saw
   * @throws ProblemException it would do something else now
   */
  public ReceiptView restore(
      UUID document,
      @Nullable UUID of,
      String state,
      RestoreMode mode,
      @Nullable String folder,
      String digest,
      String who)
      throws IOException {
    return locked(
        document,
        () -> {
          Prepared p = prepare(document, of, state, mode, folder);
          if (!p.plan().digest().equals(digest)) {
            throw changedMeanwhile();
          }
          CopyKind kind = CopyKind.valueOf(p.copy().originKind());
          return p.kept().restorer().restore(new Restorer.Order(p.plan(), document, kind), who);
        });
  }

  /**
   * Copies the live file, as it is now, to the next number of its chain or to a trial beside it.
   */
  public ReceiptView goOnAs(UUID id, RestoreMode mode, String who) throws IOException {
    return locked(
        id,
        () -> {
          Document document = projects.document(id);
          Kept kept = projects.kept(document.project());
          Instant written =
              kept.watch().status().stream()
                  .filter(s -> s.document().equals(id) && s.modified() != null)
                  .map(Watch.Status::modified)
                  .findFirst()
                  .orElseThrow(() -> new NoSuchFileException(document.live().toString()));
          ZoneId zone = ZoneId.of(kept.project().zone());
          RestorePlan plan =
              kept.restorer().planner().plan(mode, document.live(), document.live(), written, zone);
          return kept.restorer().restore(new Restorer.Order(plan, id, CopyKind.LIVE), who);
        });
  }

  /**
   * Puts a version that was written to the side where the file of today is, or beside it.
   *
   * @param base what the file of today held when that version was made of it
   * @param parts what was brought into it, in words
   */
  ReceiptView putInPlace(
      UUID id, Path version, ContentId base, RestoreMode mode, List<String> parts, String who)
      throws IOException {
    return locked(
        id,
        () -> {
          Document document = projects.document(id);
          Kept kept = projects.kept(document.project());
          ZoneId zone = ZoneId.of(kept.project().zone());
          RestorePlan plan =
              kept.restorer().planner().plan(mode, version, document.live(), Instant.now(), zone);
          if (mode == RestoreMode.REPLACE && !base.equals(plan.present())) {
            throw changedMeanwhile();
          }
          return kept.restorer()
              .restore(new Restorer.Order(UUID.randomUUID(), plan, id, CopyKind.LIVE, parts), who);
        });
  }

  public ReceiptView undo(UUID id, String who) throws IOException {
    ReceiptView view =
        receipts
            .findByUuid(id)
            .map(RestoreService::seen)
            .orElseThrow(() -> ProblemException.notFound("No such receipt."));
    UUID document = view.receipt().document();
    return locked(
        document,
        () -> {
          Kept kept = projects.kept(projects.document(document).project());
          return kept.restorer().undo(view.receipt(), who);
        });
  }

  /**
   * What laying out a step will do.
   *
   * @param digest send back to apply exactly this
   */
  public record LayoutPreview(
      String digest,
      String folder,
      List<String> files,
      long bytes,
      long free,
      boolean fits,
      double seconds) {}

  public LayoutPreview previewLayout(UUID document, String state) throws IOException {
    Kept kept = projects.kept(projects.document(document).project());
    StepLayout layout = layout(document, state, kept);
    return new LayoutPreview(
        layout.digest(),
        layout.folder().toString(),
        layout.pieces().stream().map(StepLayout.Piece::relative).toList(),
        layout.bytes(),
        layout.free(),
        layout.fits(),
        2.0 * layout.bytes() / rate(kept));
  }

  private StepLayout layout(UUID id, String state, Kept kept) throws IOException {
    Document document = projects.document(id);
    VersionsView.StateView view = trail.state(id, state);
    if (view.step() == null) {
      throw ProblemException.badInput(
          "no-step", "That version is a single file, no step of a run. Nothing was touched.");
    }
    String name = String.format(java.util.Locale.ROOT, "from-step-%04d", view.step().step());
    return kept.restorer()
        .planner()
        .layout(
            files.pieces(id, state),
            document.live().getParent(),
            Path.of(kept.project().folder()),
            name);
  }

  /**
   * Lays the files of a step out in a folder of their own.
   *
   * @param digest of the preview the person saw
   * @throws ProblemException it would do something else now
   */
  public List<ReceiptView> layOut(UUID document, String state, String digest, String who)
      throws IOException {
    List<Receipt> receipts = new ArrayList<>();
    locked(
        document,
        () -> {
          Kept kept = projects.kept(projects.document(document).project());
          StepLayout layout = layout(document, state, kept);
          if (!layout.digest().equals(digest)) {
            throw changedMeanwhile();
          }
          receipts.addAll(kept.restorer().layOut(layout, document, who));
          return receipts.get(receipts.size() - 1);
        });
    return all(document).stream().filter(v -> receipts.contains(v.receipt())).toList();
  }

  static ProblemException changedMeanwhile() {
    return ProblemException.conflict(
        "changed-meanwhile",
        "Since you looked, the file or the copy was changed. Nothing was touched; look at"
            + " what would happen now.");
  }

  /**
   * The receipt may be seen, and undone, as soon as it is in the journal; nothing holds it then.
   */
  private ReceiptView locked(UUID document, DocumentLocks.Work<Receipt> work) throws IOException {
    return newest(document, locks.locked(List.of(document), work));
  }

  private ReceiptView newest(UUID document, Receipt receipt) {
    follower.follow();
    trail.look(document);
    return all(document).stream()
        .filter(v -> v.receipt().equals(receipt))
        .findFirst()
        .orElseThrow(
            () ->
                ProblemException.away(
                    "The receipt is in the journal, but not recorded yet.", null));
  }

  public List<ReceiptView> all(UUID document) {
    return receipts.findByDocumentIdOrderByMadeDesc(projects.document(document).key()).stream()
        .map(RestoreService::seen)
        .toList();
  }

  static ReceiptView seen(ReceiptRow row) {
    return new ReceiptView(
        row.uuid, row.made, JsonMapper.shared().readValue(row.body, Receipt.class));
  }
}
