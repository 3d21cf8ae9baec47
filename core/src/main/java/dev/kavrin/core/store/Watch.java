package dev.kavrin.core.store;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.plan.Cadence;
import dev.kavrin.core.trail.CopyKind;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;

/**
 * Watches the live files of one project and copies them by its plan. Needs folder and journal only,
 * no database. Calls are serialised.
 */
public final class Watch {
  private final Disk disk;
  private final RecoveryFolder recovery;
  private final Capturer capturer;
  private final Keeper keeper;
  private final InstantSource clock;
  private final Map<UUID, Watched> documents = new LinkedHashMap<>();
  private ProjectRecord project;

  /** What is known of one live file. */
  private static final class Watched {
    private final UUID id;
    private final String path;
    private FileFacts seen;
    private FileFacts held;
    private FileFacts refused;
    private Instant firstChange;
    private Instant lastWrite;
    private String problem;

    Watched(UUID id, String path) {
      this.id = id;
      this.path = path;
    }
  }

  /**
   * How a document stands.
   *
   * @param present the live file is there
   * @param modified its last write, null if absent
   * @param pendingSince first change that no copy holds, null if none
   * @param problem why no copy could be made, null if all is well
   */
  public record Status(
      UUID document,
      boolean present,
      @Nullable Instant modified,
      long size,
      @Nullable Instant pendingSince,
      @Nullable String problem) {}

  public Watch(
      Disk disk,
      RecoveryFolder recovery,
      Capturer capturer,
      Keeper keeper,
      InstantSource clock,
      ProjectRecord project) {
    this.disk = disk;
    this.recovery = recovery;
    this.capturer = capturer;
    this.keeper = keeper;
    this.clock = clock;
    this.project = project;
    recovery.history().documents(project.id()).forEach(d -> watch(d.id(), d.path()));
  }

  public synchronized ProjectRecord project() {
    return project;
  }

  /** Takes a changed plan or folder. */
  public synchronized void change(ProjectRecord changed) {
    project = changed;
  }

  public synchronized void watch(UUID id, String path) {
    documents.computeIfAbsent(id, k -> new Watched(k, path));
  }

  public synchronized List<UUID> watched() {
    return List.copyOf(documents.keySet());
  }

  /** Looks at every live file once and copies what is due. Never throws for one document. */
  public synchronized void tick() {
    for (Watched w : documents.values()) {
      try {
        look(w);
        copyIfDue(w);
      } catch (IOException failed) {
        w.problem = failed.getMessage();
      }
    }
  }

  private Path live(Watched w) {
    return Path.of(project.folder()).resolve(w.path);
  }

  private void look(Watched w) throws IOException {
    Optional<FileFacts> now = disk.facts(live(w)).filter(FileFacts::isFile);
    if (now.isEmpty()) {
      w.seen = null;
      return;
    }
    if (w.seen != null && now.get().sameAs(w.seen)) {
      return;
    }
    boolean first = w.seen == null;
    w.seen = now.get();
    w.lastWrite = first ? now.get().modified() : clock.instant();
    boolean known = isHeld(w, now.get());
    if (known) {
      w.held = now.get();
      w.firstChange = null;
    } else if (w.firstChange == null) {
      w.firstChange = first ? now.get().modified() : clock.instant();
    }
    boolean told =
        recovery
            .history()
            .lastWritten(w.id)
            .filter(e -> e.modified().equals(now.get().modified()) && e.size() == now.get().size())
            .isPresent();
    if (!told) {
      recovery.record(
          new JournalEntry.Written(
              clock.instant(), w.id, now.get().modified(), now.get().size(), null));
    }
  }

  private boolean isHeld(Watched w, FileFacts now) {
    return recovery.history().captures(w.id).stream()
        .anyMatch(
            c ->
                c.settled()
                    && c.source().equals(live(w).toString())
                    && c.workTo().equals(now.modified())
                    && c.content().length() == now.size());
  }

  private void copyIfDue(Watched w) throws IOException {
    if (w.seen == null || (w.refused != null && w.refused.sameAs(w.seen))) {
      return;
    }
    Cadence.Step step = Cadence.step(project.plan(), w.firstChange, w.lastWrite, clock.instant());
    if (step == Cadence.Step.WAIT) {
      return;
    }
    try {
      copy(w, "due", null, step == Cadence.Step.COPY_UNSETTLED, false);
    } catch (SourceException.Damaged damaged) {
      w.refused = w.seen;
      throw damaged;
    } catch (SourceException.StillWritten moving) {
      w.lastWrite = clock.instant();
    }
  }

  private Capturer.Result copy(
      Watched w, String cause, String note, boolean evenMoving, boolean anyHealth)
      throws IOException {
    Capturer.Result result =
        capturer.capture(
            new Capturer.Order(
                project,
                w.id,
                w.path,
                live(w),
                live(w),
                CopyKind.LIVE,
                CopyKind.CAPTURE,
                null,
                cause,
                note,
                anyHealth,
                evenMoving));
    w.problem = null;
    if (result.capture().settled()) {
      w.held = w.seen;
      w.firstChange = null;
    }
    if (result.made()) {
      keeper.apply(project, w.id);
    }
    return result;
  }

  /** Copies what is on disk now, because a person says so; a damaged file too. */
  public synchronized Capturer.Result copyNow(UUID document, String note) throws IOException {
    Watched w = documents.get(document);
    if (w == null) {
      throw new java.nio.file.NoSuchFileException("document " + document);
    }
    look(w);
    Capturer.Result result = copy(w, "by hand", note, false, true);
    if (!result.made() && note != null) {
      recovery.record(
          new JournalEntry.Marked(
              clock.instant(), document, result.capture().state(), "noted", true, null, note));
    }
    return result;
  }

  public synchronized List<Status> status() {
    return documents.values().stream().map(Watch::statusOf).toList();
  }

  private static Status statusOf(Watched w) {
    return new Status(
        w.id,
        w.seen != null,
        w.seen == null ? null : w.seen.modified(),
        w.seen == null ? 0 : w.seen.size(),
        w.firstChange,
        w.problem);
  }
}
