package dev.kavrin.server.version;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Moments;
import dev.kavrin.core.version.DocumentMatcher;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.JournalListener;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Files found elsewhere that belong to documents: proposed, accepted, refused. */
@Service
@Order(4)
public class StrayService implements JournalListener {
  private static final String OPEN = "OPEN";
  private static final String ACCEPTED = "ACCEPTED";
  private static final String REFUSED = "REFUSED";

  private final Disk disk;
  private final StrayRow.Repository strays;
  private final ObjectProvider<ProjectService> projects;
  private final ObjectProvider<JournalFollower> follower;
  private final InstantSource clock;
  private final Map<Long, Map<Path, CopyKind>> accepted = new ConcurrentHashMap<>();

  StrayService(
      Disk disk,
      StrayRow.Repository strays,
      ObjectProvider<ProjectService> projects,
      ObjectProvider<JournalFollower> follower,
      InstantSource clock) {
    this.disk = disk;
    this.strays = strays;
    this.projects = projects;
    this.follower = follower;
    this.clock = clock;
  }

  /**
   * A file that a search tied to a document.
   *
   * @param share of it that is known from the document, 0 to 1
   * @param standing OPEN, ACCEPTED or REFUSED
   * @param inStore true if it lies in a store elsewhere, from where it is to be taken in
   */
  public record Stray(
      UUID id,
      UUID document,
      String documentName,
      String path,
      long size,
      Instant modified,
      String tiedBy,
      double share,
      String words,
      String standing,
      boolean inStore) {}

  /**
   * A search found it. What is surely of the document counts at once, the rest waits for a person.
   */
  @Transactional
  public boolean found(
      Document document,
      ContentId content,
      String path,
      long size,
      long modified,
      DocumentMatcher.Tie tie) {
    List<StrayRow> known = strays.findByDocumentIdAndContent(document.key(), content.toString());
    if (known.stream().anyMatch(s -> s.path.equals(path))) {
      return false;
    }
    StrayRow row = row(document, content, path);
    row.size = size;
    row.modified = modified;
    row.tiedBy =
        tie.by() == DocumentMatcher.By.CONTENT
            ? DocumentMatcher.By.CONTENT.name()
            : DocumentMatcher.By.NAME.name();
    row.kind = tie.kind().name();
    row.share = tie.share();
    row.words = tie.words();
    row.standing =
        known.stream()
            .map(s -> s.standing)
            .filter(s -> !s.equals(OPEN))
            .findFirst()
            .orElse(tie.sure() && !isInStore(path) ? ACCEPTED : OPEN);
    strays.save(row);
    accepted.remove(document.key());
    return true;
  }

  private StrayRow row(Document document, ContentId content, String path) {
    StrayRow row = new StrayRow();
    row.uuid = Ids.next(clock.instant());
    row.documentId = document.key();
    row.content = content.toString();
    row.path = path;
    row.found = clock.instant();
    return row;
  }

  /** Of all documents, those that are still there; the largest share first. */
  public List<Stray> all() {
    List<Document> documents =
        projects.getObject().all().stream()
            .flatMap(p -> projects.getObject().documents(p.id()).stream())
            .toList();
    Map<Long, Document> byKey = documents.stream().collect(Collectors.toMap(Document::key, d -> d));
    return strays.findByDocumentIdIn(byKey.keySet()).stream()
        .filter(s -> isInStore(s.path) || disk.isFile(Path.of(s.path)))
        .sorted((a, b) -> Double.compare(b.share, a.share))
        .map(s -> seen(s, byKey.get(s.documentId)))
        .toList();
  }

  private static Stray seen(StrayRow s, Document document) {
    return new Stray(
        s.uuid,
        document.id(),
        document.path(),
        s.path,
        s.size,
        Moments.ofNanos(s.modified),
        s.tiedBy,
        s.share,
        s.words,
        s.standing,
        isInStore(s.path));
  }

  /** Accepted ones with what they are, for whoever looks for copies. */
  Map<Path, CopyKind> accepted(Document document) {
    return accepted.computeIfAbsent(
        document.key(),
        key ->
            strays.findByDocumentId(key).stream()
                .filter(s -> s.standing.equals(ACCEPTED) && !isInStore(s.path))
                .collect(
                    Collectors.toMap(
                        s -> Path.of(s.path), s -> CopyKind.valueOf(s.kind), (a, b) -> a)));
  }

  /** True for the address of an object in a store: it is no file that could be read where it is. */
  private static boolean isInStore(String path) {
    return path.contains("://");
  }

  /** An object another tool left in a store. */
  public record InStore(UUID document, String path, ContentId content, Instant modified) {}

  /**
   * One that was found in a store.
   *
   * @throws ProblemException there is none, or it is a file
   */
  public InStore inStore(UUID id) {
    StrayRow row =
        strays
            .findByUuid(id)
            .filter(s -> isInStore(s.path))
            .orElseThrow(() -> ProblemException.notFound("Nothing of the kind was found."));
    return new InStore(
        document(row).id(), row.path, ContentId.parse(row.content), Moments.ofNanos(row.modified));
  }

  private Document document(StrayRow row) {
    return projects.getObject().all().stream()
        .flatMap(p -> projects.getObject().documents(p.id()).stream())
        .filter(d -> d.key() == row.documentId)
        .findFirst()
        .orElseThrow();
  }

  /** Accepts a tie, or refuses it for good. */
  public void decide(UUID id, boolean accepted, String who) throws IOException {
    StrayRow row =
        strays.findByUuid(id).orElseThrow(() -> ProblemException.notFound("No such file found."));
    Document document = document(row);
    projects
        .getObject()
        .kept(document.project())
        .folders()
        .record(
            new JournalEntry.TieDecided(
                clock.instant(),
                document.id(),
                ContentId.parse(row.content),
                row.path,
                accepted,
                who));
    follower.getObject().follow();
  }

  @Override
  public void apply(long recoveryPlace, JournalEntry entry) {
    if (entry instanceof JournalEntry.TieDecided e) {
      Document document = projects.getObject().document(e.document());
      List<StrayRow> rows =
          strays.findByDocumentIdAndContent(document.key(), e.content().toString());
      for (StrayRow row : rows.isEmpty() ? List.of(told(document, e)) : rows) {
        row.standing = e.accepted() ? ACCEPTED : REFUSED;
        row.decided = e.at();
        row.who = e.who();
        strays.save(row);
      }
      accepted.remove(document.key());
    }
  }

  /** Known from the journal alone, as when the records were lost. */
  private StrayRow told(Document document, JournalEntry.TieDecided e) {
    StrayRow row = row(document, e.content(), e.path());
    row.size = e.content().length();
    row.tiedBy = DocumentMatcher.By.CONTENT.name();
    row.kind = CopyKind.STRAY.name();
    row.words = "decided before the records were rebuilt";
    return row;
  }
}
