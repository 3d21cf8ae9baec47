package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.lane.Lanes;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.EndSigns;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What is seen of a document once its program runs no more. */
final class DocumentEnd {
  private static final EndSigns NOTHING =
      new EndSigns(false, false, false, false, Verdict.NOT_CHECKED, false);

  private final Disk disk;
  private final BackupFolders folders;
  private final Inspector inspector;
  private final Lanes lanes;
  private final Instant started;
  private final Map<UUID, Judged> judged = new ConcurrentHashMap<>();

  DocumentEnd(Disk disk, BackupFolders folders, Inspector inspector, Lanes lanes, Instant started) {
    this.disk = disk;
    this.folders = folders;
    this.inspector = inspector;
    this.lanes = lanes;
    this.started = started;
  }

  /**
   * A document with what was seen of it.
   *
   * @param beingRead its file is being read; what that tells comes with a later look
   */
  record Seen(
      JournalEntry.DocumentSet document, EndSigns signs, String evidence, boolean beingRead) {
    static Seen reported(JournalEntry.DocumentSet document) {
      return new Seen(document, null, document.path() + ": reported by a person", false);
    }
  }

  /** What reading a live file after its program's end came to. */
  private record Judged(FileFacts facts, Verdict verdict) {}

  /** What its program's own copies say. */
  private record Copies(boolean rescue, boolean newer) {}

  /**
   * @param lastAlive when its program was last seen, null if never since the last look
   * @param mayRead false while no file may be read
   */
  Seen look(
      ProjectRecord project,
      JournalEntry.DocumentSet document,
      @Nullable Instant lastAlive,
      boolean mayRead)
      throws IOException {
    Path live = Path.of(project.folder()).resolve(document.path());
    boolean signLeft = signLeft(project, document, live);
    if (lastAlive == null && !signLeft) {
      return new Seen(document, NOTHING, "", false);
    }
    Optional<FileFacts> facts = disk.facts(live).filter(FileFacts::isFile);
    boolean news = facts.filter(f -> !isKnown(document.id(), f.modified())).isPresent();
    Optional<Verdict> verdict =
        !news || !mayRead
            ? Optional.of(Verdict.NOT_CHECKED)
            : verdict(document.id(), live, facts.get());
    Instant since = lastAlive == null ? started : lastAlive.minusSeconds(5);
    Copies copies = copies(project, document, facts, since);
    EndSigns signs =
        new EndSigns(
            false,
            true,
            signLeft,
            copies.rescue(),
            verdict.orElse(Verdict.NOT_CHECKED),
            copies.newer());
    String evidence = document.path() + ": " + words(signs, facts.isPresent());
    return new Seen(document, signs, evidence, verdict.isEmpty());
  }

  private boolean signLeft(ProjectRecord project, JournalEntry.DocumentSet document, Path live)
      throws IOException {
    Optional<Path> sign = project.program().signFor(live);
    return sign.isPresent()
        && disk.facts(sign.get()).filter(s -> !isKnown(document.id(), s.modified())).isPresent();
  }

  private Copies copies(
      ProjectRecord project,
      JournalEntry.DocumentSet document,
      Optional<FileFacts> live,
      Instant since) {
    boolean rescue = false;
    boolean newer = false;
    for (Leftovers.Leftover l : Leftovers.find(disk, project, document.id(), document.path())) {
      boolean told = isKnown(document.id(), l.facts().modified());
      rescue |= !told && l.kind() == CopyKind.RESCUE && l.facts().modified().isAfter(since);
      newer |=
          !told
              && l.kind() == CopyKind.AUTOSAVE
              && live.map(f -> l.facts().modifiedNanos() > f.modifiedNanos()).orElse(true);
    }
    return new Copies(rescue, newer);
  }

  private static String words(EndSigns signs, boolean isThere) {
    return Stream.of(
            signs.signLeft() ? "its session sign was left behind" : "",
            signs.live() == Verdict.DAMAGED ? "the file is damaged" : "",
            signs.rescueWritten() ? "a rescue file was written" : "",
            signs.newerAutosave() && !isThere ? "it was never saved, an autosave of it stands" : "",
            signs.newerAutosave() && isThere ? "an autosave is newer than the file" : "")
        .filter(t -> !t.isEmpty())
        .collect(Collectors.joining(", "));
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
