package dev.kavrin.server.offsite;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.JournalEntry.Written;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.offsite.Coverage;
import dev.kavrin.core.offsite.Coverage.Answer;
import dev.kavrin.core.offsite.Coverage.Rule;
import dev.kavrin.core.plan.Exposure;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.Disks;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Function;
import org.springframework.stereotype.Component;

/**
 * Where the newest whole version of each document lies, and what the loss of the site would cost.
 */
@Component
public class Coverages {
  private static final Duration AT_HAND = Duration.ofSeconds(20);

  private final InstantSource clock;
  private final Cache<Path, Optional<Disks.Name>> disks =
      Caffeine.newBuilder().maximumSize(1000).expireAfterWrite(Duration.ofMinutes(1)).build();
  private final Cache<UUID, Known> known = Caffeine.newBuilder().maximumSize(1000).build();
  private final Cache<UUID, SiteLine> lines =
      Caffeine.newBuilder().maximumSize(1000).expireAfterWrite(AT_HAND).build();

  Coverages(InstantSource clock) {
    this.clock = clock;
  }

  private record Known(long size, Instant at, ProjectCoverage coverage) {}

  /**
   * One document.
   *
   * @param work when the work in its newest whole version was done; null if there is none
   * @param lacks what the rule asks for and is not there, in words
   * @param siteSafe work up to that moment survives the loss of this site; null if nothing is known
   *     to
   * @param siteLost seconds of work that would be lost with the site now; null if all of it
   */
  public record DocumentCoverage(
      UUID id,
      String path,
      @Nullable Instant work,
      Coverage coverage,
      Answer answer,
      List<String> lacks,
      @Nullable Instant siteSafe,
      @Nullable Long siteLost) {}

  /**
   * All of a project's documents.
   *
   * @param met by how many the rule is met
   * @param perhaps by how many nobody can tell
   * @param elsewhere of how many the newest whole version lies elsewhere
   * @param siteLost seconds of work that would be lost with the site now, of the document that
   *     would lose most; null if one would be lost whole
   */
  public record ProjectCoverage(
      Rule rule,
      int met,
      int perhaps,
      int elsewhere,
      @Nullable Long siteLost,
      List<DocumentCoverage> documents) {}

  /**
   * In a line.
   *
   * @param stores elsewhere that take its copies
   * @param documents of the project
   * @param elsewhere documents whose newest whole version lies there
   * @param siteLost seconds of work that would be lost with the site; null if one would be lost
   *     whole
   */
  public record SiteLine(
      int stores, @JsonIgnore int documents, int elsewhere, @Nullable Long siteLost) {}

  /** As of some seconds ago at most; asks no disk. */
  public SiteLine line(Kept kept) {
    return lines.get(kept.project().id(), id -> figuredLine(kept));
  }

  private SiteLine figuredLine(Kept kept) {
    int stores = new Elsewhere(kept.folders().history()).stores(kept.project().id()).size();
    if (stores == 0) {
      return new SiteLine(0, 0, 0, null);
    }
    ProjectCoverage coverage = figured(kept, folder -> Optional.empty());
    return new SiteLine(
        stores, coverage.documents().size(), coverage.elsewhere(), coverage.siteLost());
  }

  /** As of now; figured anew only where something was written down since. */
  public ProjectCoverage of(Kept kept) {
    long size = kept.folders().all().stream().mapToLong(f -> f.history().size()).sum();
    Instant now = clock.instant();
    Known before = known.getIfPresent(kept.project().id());
    if (before != null
        && before.size() == size
        && Duration.between(before.at(), now).compareTo(AT_HAND) < 0) {
      return before.coverage();
    }
    ProjectCoverage figured = figured(kept, f -> disks.get(f, Disks::of));
    known.put(kept.project().id(), new Known(size, now, figured));
    return figured;
  }

  private ProjectCoverage figured(Kept kept, Function<Path, Optional<Disks.Name>> disks) {
    Rule rule = rule(kept);
    List<DocumentCoverage> all =
        kept.folders().history().documents(kept.project().id()).stream()
            .map(d -> document(kept, d, rule, disks))
            .sorted(Comparator.comparing(DocumentCoverage::path))
            .toList();
    boolean whole = all.stream().anyMatch(d -> d.work() != null && d.siteLost() == null);
    return new ProjectCoverage(
        rule,
        (int) all.stream().filter(d -> d.answer() == Answer.YES).count(),
        (int) all.stream().filter(d -> d.answer() == Answer.PERHAPS).count(),
        (int) all.stream().filter(d -> d.coverage().elsewhere() > 0).count(),
        whole
            ? null
            : all.stream()
                .map(DocumentCoverage::siteLost)
                .filter(l -> l != null)
                .max(Comparator.naturalOrder())
                .orElse(0L),
        all);
  }

  Rule rule(Kept kept) {
    return new Elsewhere(kept.folders().history())
        .wanted(kept.project().id())
        .map(w -> new Rule(w.copies(), w.disks(), w.elsewhere()))
        .orElse(Rule.USUAL);
  }

  private DocumentCoverage document(
      Kept kept, DocumentSet document, Rule rule, Function<Path, Optional<Disks.Name>> disks) {
    History history = kept.folders().history();
    BackupRecord newest =
        new KeepInputs(history, document.id())
            .protecting().stream().max(Comparator.comparing(BackupRecord::workTo)).orElse(null);
    Optional<Written> written = history.lastWritten(document.id());
    List<CopyElsewhere> elsewhere =
        new Elsewhere(history)
            .copies(document.id()).stream().filter(CopyElsewhere::counts).toList();
    Coverage coverage =
        Coverage.of(newest == null ? List.of() : copies(kept, newest, written, elsewhere, disks));
    Instant safe = safe(history, document.id(), elsewhere);
    return new DocumentCoverage(
        document.id(),
        document.path(),
        newest == null ? null : newest.workTo(),
        coverage,
        coverage.meets(rule),
        coverage.lacks(rule),
        safe,
        lost(kept, document.id(), newest, written, safe, elsewhere));
  }

  private List<Coverage.Copy> copies(
      Kept kept,
      BackupRecord newest,
      Optional<Written> written,
      List<CopyElsewhere> elsewhere,
      Function<Path, Optional<Disks.Name>> disks) {
    List<Coverage.Copy> copies = new ArrayList<>();
    if (written.filter(w -> holds(w, newest)).isPresent()) {
      add(copies, disks.apply(Path.of(kept.project().folder())));
    }
    for (BackupFolder folder : kept.folders().all()) {
      boolean has =
          folder.history().captures(newest.document()).stream()
              .anyMatch(
                  b ->
                      b.content().equals(newest.content())
                          && b.protects()
                          && !folder.history().isFaulty(b.path()));
      if (has && kept.folders().behind(folder).isEmpty()) {
        add(copies, disks.apply(folder.root()));
      }
    }
    elsewhere.stream()
        .filter(c -> c.content().equals(newest.content()))
        .map(c -> new Coverage.Copy(c.store().toString(), true, c.verified()))
        .forEach(copies::add);
    return copies;
  }

  /** True if the live file is still what was backed up from it. */
  private static boolean holds(Written live, BackupRecord backup) {
    return backup.sourceKind() == CopyKind.LIVE
        && live.size() == backup.content().length()
        && live.modified().equals(backup.workTo());
  }

  private static void add(List<Coverage.Copy> copies, Optional<Disks.Name> disk) {
    disk.ifPresent(d -> copies.add(new Coverage.Copy(d.disk(), d.known(), null)));
  }

  @Nullable
  private static Instant safe(History history, UUID document, List<CopyElsewhere> elsewhere) {
    return history.captures(document).stream()
        .filter(
            b -> b.protects() && elsewhere.stream().anyMatch(c -> c.content().equals(b.content())))
        .map(BackupRecord::workTo)
        .max(Comparator.naturalOrder())
        .orElse(null);
  }

  @Nullable
  private Long lost(
      Kept kept,
      UUID document,
      @Nullable BackupRecord newest,
      Optional<Written> written,
      @Nullable Instant safe,
      List<CopyElsewhere> elsewhere) {
    Instant onSite = written.map(Written::modified).orElse(newest == null ? null : newest.workTo());
    boolean held =
        written
            .filter(
                w ->
                    newest != null
                        && holds(w, newest)
                        && elsewhere.stream().anyMatch(c -> c.content().equals(newest.content())))
            .isPresent();
    Duration lost =
        Exposure.now(clock.instant(), onSite, safe, held, kept.open(document).mayHoldWork())
            .fileLost();
    return lost == null ? null : lost.toSeconds();
  }
}
