package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.incident.OpenDocuments.Cut;
import dev.kavrin.core.incident.OpenDocuments.Ended;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.lane.Lanes;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.CrashLog;
import dev.kavrin.core.profile.EndSigns;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What is seen of a document once its program runs no more. */
final class DocumentEnd {
  private static final String SIGN_LEFT = "its lock file was left behind";

  /** A save that others do is over when the file was left alone that long. */
  private static final Duration SAVED_BY_THEN = Duration.ofSeconds(10);

  private final Disk disk;
  private final BackupFolders folders;
  private final Inspector inspector;
  private final Lanes lanes;
  private final InstantSource clock;
  private final Instant started;
  private final Map<UUID, Judged> judged = new ConcurrentHashMap<>();

  DocumentEnd(
      Disk disk, BackupFolders folders, Inspector inspector, Lanes lanes, InstantSource clock) {
    this.disk = disk;
    this.folders = folders;
    this.inspector = inspector;
    this.lanes = lanes;
    this.clock = clock;
    this.started = clock.instant();
  }

  /**
   * A document with what was seen of it.
   *
   * @param lastAlive when its program was last known alive, null if nobody saw it
   * @param beingRead its file is being read; what that tells comes with a later look
   */
  record Seen(
      JournalEntry.DocumentSet document,
      EndSigns signs,
      @Nullable Instant lastAlive,
      String evidence,
      boolean beingRead) {
    static Seen reported(JournalEntry.DocumentSet document, @Nullable Instant lastAlive) {
      return new Seen(
          document, EndSigns.NONE, lastAlive, document.path() + ": reported by a person", false);
    }

    private static Seen nothing(JournalEntry.DocumentSet document, boolean beingRead) {
      return new Seen(document, EndSigns.NONE, null, "", beingRead);
    }
  }

  /** What reading a live file after its program's end came to. */
  private record Judged(FileFacts facts, Verdict verdict) {}

  /** What its program's own copies say. */
  private record Copies(boolean rescue, boolean newer) {}

  /**
   * @param open how it stands now
   * @param ended what ended of its program; null if nothing did that anybody saw
   * @param mayRead false while no file may be read
   */
  Seen look(
      ProjectRecord project,
      JournalEntry.DocumentSet document,
      OpenDocument open,
      @Nullable Ended ended,
      boolean mayRead)
      throws IOException {
    Path live = Path.of(project.folder()).resolve(document.path());
    boolean signLeft =
        (ended != null || !open.isHere())
            && open.state() != OpenDocument.State.ELSEWHERE
            && signLeft(project, document, live);
    if (ended == null && !signLeft) {
      return Seen.nothing(document, false);
    }
    Optional<FileFacts> facts = disk.facts(live).filter(FileFacts::isFile);
    if (ended == null && facts.filter(f -> !rests(f)).isPresent()) {
      return Seen.nothing(document, true);
    }
    boolean news = facts.filter(f -> !isKnown(document.id(), f.modified())).isPresent();
    boolean reads = news && mayRead && (ended == null || !ended.othersRun() || open.by().isEmpty());
    Optional<Verdict> verdict =
        reads ? verdict(document.id(), live, facts.get()) : Optional.of(Verdict.NOT_CHECKED);
    Instant since = ended == null ? started : ended.lastAlive().minusSeconds(5);
    Copies copies = copies(project, document, facts, since);
    EndSigns signs =
        new EndSigns(
            ended != null,
            ended != null && ended.othersRun() && !ended.sure(),
            signLeft,
            !new PastAnswers(folders).wasMeantDespite(project, SIGN_LEFT),
            copies.rescue(),
            verdict.orElse(Verdict.NOT_CHECKED),
            copies.newer(),
            saysCrash(project, document, live, ended == null ? null : since, mayRead),
            ended != null && isCut(project, ended.cut(), signLeft, news, copies, facts));
    String evidence = document.path() + ": " + words(signs, ended, facts.isPresent());
    Instant lastAlive = ended == null ? null : ended.lastAlive();
    return new Seen(document, signs, lastAlive, evidence, verdict.isEmpty());
  }

  /**
   * Down with the machine while it was open or worked on; or with Kavrin, where no lock file could
   * tell.
   */
  private static boolean isCut(
      ProjectRecord project,
      Cut cut,
      boolean signLeft,
      boolean news,
      Copies copies,
      Optional<FileFacts> facts) {
    boolean hasSign = project.program().sessionSign() != null;
    if (cut.work() != null) {
      return cut.hadItOpen() || news && (copies.newer() || isSince(facts, cut.work()));
    }
    return cut.kavrinToo() && (signLeft || !hasSign);
  }

  /** Where nobody saw the program here, somebody elsewhere may be in the middle of a save. */
  private boolean rests(FileFacts file) {
    return !file.modified().isAfter(clock.instant().minus(SAVED_BY_THEN));
  }

  private static boolean isSince(Optional<FileFacts> facts, Instant moment) {
    return facts.filter(f -> !f.modified().isBefore(moment.minusSeconds(5))).isPresent();
  }

  private boolean signLeft(ProjectRecord project, JournalEntry.DocumentSet document, Path live)
      throws IOException {
    Optional<Path> sign = project.program().signFor(live);
    return sign.isPresent()
        && disk.facts(sign.get()).filter(s -> !isKnown(document.id(), s.modified())).isPresent();
  }

  /**
   * Where nobody saw the program here, what it wrote since its lock file was left.
   *
   * @param since null where nobody saw it
   */
  private boolean saysCrash(
      ProjectRecord project,
      JournalEntry.DocumentSet document,
      Path live,
      @Nullable Instant since,
      boolean mayRead)
      throws IOException {
    CrashLog log = project.program().crashLog();
    if (log == null) {
      return false;
    }
    Instant from = since;
    if (from == null) {
      Optional<Path> sign = project.program().signFor(live);
      Optional<FileFacts> left = sign.isEmpty() ? Optional.empty() : disk.facts(sign.get());
      if (left.isEmpty()) {
        return false;
      }
      from = left.get().modified();
    }
    return log.written(disk, live, from, mayRead)
        .filter(at -> !isKnown(document.id(), at))
        .isPresent();
  }

  private Copies copies(
      ProjectRecord project,
      JournalEntry.DocumentSet document,
      Optional<FileFacts> live,
      Instant since) {
    boolean rescue = false;
    boolean newer = false;
    for (Leftovers.Leftover l :
        Leftovers.find(disk, project, document.id(), document.path(), folders.livePaths(project))) {
      boolean told = isKnown(document.id(), l.facts().modified());
      rescue |= !told && l.kind() == CopyKind.RESCUE && l.facts().modified().isAfter(since);
      newer |=
          !told
              && l.kind() == CopyKind.AUTOSAVE
              && live.map(f -> l.facts().modifiedNanos() > f.modifiedNanos()).orElse(true);
    }
    return new Copies(rescue, newer);
  }

  private static String words(EndSigns signs, @Nullable Ended ended, boolean isThere) {
    boolean perhaps = signs.signLeft() && signs.ran() && signs.othersRun();
    return Stream.of(
            signs.signLeft() && signs.ran() && !perhaps ? SIGN_LEFT : "",
            perhaps ? "its lock file stands after one of several windows was gone" : "",
            signs.signLeft() && !signs.ran()
                ? "its lock file stands, and its program was not seen on this machine: it is open"
                    + " elsewhere, or was left behind"
                : "",
            signs.live() == Verdict.DAMAGED ? "the file is damaged" : "",
            signs.cut() ? cutWords(ended.cut()) : "",
            signs.saysCrash() ? "its program wrote down that it crashed" : "",
            signs.rescueWritten() ? "a rescue file was written" : "",
            signs.newerAutosave() && !isThere ? "it was never saved, an autosave of it stands" : "",
            signs.newerAutosave() && isThere ? "an autosave is newer than the file" : "")
        .filter(t -> !t.isEmpty())
        .collect(Collectors.joining(", "));
  }

  private static String cutWords(Cut cut) {
    String what = cut.work() != null ? "the machine" : "Kavrin";
    return what
        + " went down while it was "
        + (cut.hadItOpen() ? "open" : "worked on")
        + (cut.work() != null ? "" : ", and its program is gone");
  }

  /** Empty while it is being read. */
  private Optional<Verdict> verdict(UUID document, Path live, FileFacts facts) throws IOException {
    if (known(document, facts).isEmpty()) {
      lanes.run(
          Lane.SECURE,
          facts.size(),
          "reading " + live + " after its program ended",
          () ->
              judged.put(
                  document,
                  new Judged(
                      facts, inspector.inspect(live, live.getFileName().toString()).verdict())));
    }
    return known(document, facts);
  }

  private Optional<Verdict> known(UUID document, FileFacts facts) {
    return Optional.ofNullable(judged.get(document))
        .filter(j -> j.facts().sameAs(facts))
        .map(Judged::verdict);
  }

  /** True if what stood there then is part of an incident already. */
  private boolean isKnown(UUID document, Instant since) {
    return folders.history().incidents().stream()
        .anyMatch(i -> i.documents().contains(document) && !i.to().isBefore(since));
  }
}
