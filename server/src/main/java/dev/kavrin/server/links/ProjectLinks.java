package dev.kavrin.server.links;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.JournalEntry.Leaned;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.relink.Relink;
import dev.kavrin.server.links.LinkRow.Status;
import dev.kavrin.server.platform.FileOwners;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.StateView;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** What the documents of a project lean on, and how that stands. */
@Service
public class ProjectLinks {
  private final ProjectService projects;
  private final VersionService trail;
  private final PathGuard guard;
  private final Disk disk;
  private final Publisher publisher;
  private final Cache<Seen, ContentId> contents = Caffeine.newBuilder().maximumSize(10_000).build();

  ProjectLinks(
      ProjectService projects,
      VersionService trail,
      PathGuard guard,
      Disk disk,
      Publisher publisher) {
    this.projects = projects;
    this.trail = trail;
    this.guard = guard;
    this.disk = disk;
    this.publisher = publisher;
  }

  /** A file as it was when it was read for its identity. */
  private record Seen(Path file, long size, long modified) {}

  /** All links, those of one document together, in the order they stand in it. */
  public List<LinkRow> of(UUID project) throws IOException {
    List<Document> documents = projects.documents(project);
    Map<String, UUID> byFile = new HashMap<>();
    documents.forEach(d -> byFile.put(d.live().toString(), d.id()));
    List<LinkRow> rows = new ArrayList<>();
    for (Document document : documents) {
      rows.addAll(of(document, byFile));
    }
    Map<String, TreeSet<String>> users = new HashMap<>();
    rows.forEach(r -> users.computeIfAbsent(r.file(), k -> new TreeSet<>()).add(r.path()));
    return rows.stream()
        .map(r -> r.usedBy(users.get(r.file()).stream().filter(u -> !u.equals(r.path())).toList()))
        .toList();
  }

  private List<LinkRow> of(Document document, Map<String, UUID> byFile) throws IOException {
    Optional<StateView> now = now(document);
    if (now.isEmpty()) {
      return List.of();
    }
    StateView state = now.get();
    Map<String, ContentId> then = then(document, state);
    List<LinkRow> rows = new ArrayList<>();
    for (String uri : state.names().stream().distinct().toList()) {
      Path file = document.named(uri).orElse(null);
      if (file != null) {
        rows.add(row(document, state, uri, file, then, byFile.get(file.toString())));
      }
    }
    return rows;
  }

  /** The state that stands on disk, else the newest. */
  private Optional<StateView> now(Document document) {
    List<StateView> states = trail.whole(document.id()).states();
    String live = document.live().toString();
    return states.stream()
        .filter(
            s ->
                s.copies().stream().anyMatch(c -> c.kind().equals("LIVE") && c.path().equals(live)))
        .findFirst()
        .or(() -> states.stream().findFirst());
  }

  private Map<String, ContentId> then(Document document, StateView state) {
    Map<String, ContentId> then = new HashMap<>();
    for (Leaned leaned :
        projects.kept(document.project()).folder().history().leansOn(document.id(), state.id())) {
      if (leaned.content() != null) {
        then.put(leaned.path(), leaned.content());
      }
    }
    return then;
  }

  private LinkRow row(
      Document document,
      StateView state,
      String uri,
      Path file,
      Map<String, ContentId> then,
      @Nullable UUID linked)
      throws IOException {
    Path project = Path.of(projects.kept(document.project()).project().folder());
    Optional<FileFacts> facts =
        guard.allows(file) ? disk.facts(file).filter(FileFacts::isFile) : Optional.empty();
    ContentId was = file.startsWith(project) ? then.get(RelativePath.of(project, file)) : null;
    boolean changed = was != null && facts.isPresent() && !isStill(file, facts.get(), was);
    Status status =
        !guard.allows(file)
            ? Status.OUTSIDE
            : facts.isEmpty() ? Status.MISSING : changed ? Status.CHANGED : Status.FOUND;
    return new LinkRow(
        document.id(),
        document.path(),
        state.id(),
        uri,
        file.toString(),
        status,
        new Link(uri, "data").isAbsolute(),
        changed ? facts.get().modified() : null,
        changed ? FileOwners.lastWriter(file) : "",
        linked,
        List.of(),
        Relink.canWrite(document.path()));
  }

  private boolean isStill(Path file, FileFacts facts, ContentId was) throws IOException {
    if (facts.size() != was.length()) {
      return false;
    }
    Seen seen = new Seen(file, facts.size(), facts.modifiedNanos());
    ContentId now = contents.getIfPresent(seen);
    if (now == null) {
      now = publisher.identify(file);
      contents.put(seen, now);
    }
    return now.equals(was);
  }
}
