package dev.kavrin.server.links;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Readers;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.picture.Frame;
import dev.kavrin.core.relink.Lost;
import dev.kavrin.core.relink.PictureLikeness;
import dev.kavrin.core.relink.Relink;
import dev.kavrin.core.relink.Suggestion;
import dev.kavrin.core.relink.Suggestions;
import dev.kavrin.core.version.Manifest;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.platform.Walk;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.restore.PartRestores;
import dev.kavrin.server.version.LinkSnapshots;
import dev.kavrin.server.version.VersionFiles;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.stereotype.Service;

/** Leads documents to their linked files again. */
@Service
class Relinks {
  /** Common practice, no source: a large project's files; more are told. */
  private static final int MOST_FILES = 50_000;

  private static final int MOST_LOOKS = 200;

  private final ProjectService projects;
  private final ProjectLinks links;
  private final PartRestores restores;
  private final LinkSnapshots snapshots;
  private final VersionFiles files;
  private final ReaderProcess reader;
  private final PathGuard guard;
  private final Disk disk;
  private final Publisher publisher;
  private final Cache<Seen, Optional<PictureLikeness>> looks =
      Caffeine.newBuilder().maximumSize(5_000).build();

  Relinks(
      ProjectService projects,
      ProjectLinks links,
      PartRestores restores,
      LinkSnapshots snapshots,
      VersionFiles files,
      ReaderProcess reader,
      PathGuard guard,
      Disk disk,
      Publisher publisher) {
    this.projects = projects;
    this.links = links;
    this.restores = restores;
    this.snapshots = snapshots;
    this.files = files;
    this.reader = reader;
    this.guard = guard;
    this.disk = disk;
    this.publisher = publisher;
  }

  private record Seen(Path file, long size, long modified) {}

  /**
   * A file that may serve.
   *
   * @param why in words
   * @param told how it differs from what is lost, in words
   * @param linked to bring the held copy back by, with its state; null for a file that stands
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record ServingFile(
      String file,
      String why,
      String told,
      long size,
      @Nullable UUID linked,
      @Nullable String state) {}

  /**
   * Files that may serve for one a document names and that is not there.
   *
   * @param in a folder to look through, null for the project's
   */
  List<ServingFile> candidates(UUID id, String uri, @Nullable String in) throws IOException {
    Document document = projects.document(id);
    Path project = Path.of(projects.kept(document.project()).project().folder());
    Path file =
        document
            .named(uri)
            .orElseThrow(() -> ProblemException.badInput("no-file", uri + " names no file."));
    Lost lost = lost(document, project, file);
    List<ServingFile> found = new ArrayList<>();
    for (Suggestion one :
        new Suggestions(new Looking())
            .of(lost, standing(in == null ? project : guard.folder(in)))) {
      boolean held = one.why() == Suggestion.Why.HELD;
      found.add(
          new ServingFile(
              one.file().toString(),
              one.why().words(),
              one.told(),
              disk.facts(one.file()).map(FileFacts::size).orElse(0L),
              held ? linked(document, project, file) : null,
              held ? Manifest.ofFile(lost.content()).digest() : null));
    }
    return found.stream().filter(c -> c.state() == null || c.linked() != null).toList();
  }

  @Nullable
  private UUID linked(Document document, Path project, Path file) {
    String path = RelativePath.of(project, file);
    return projects.documents(document.project()).stream()
        .filter(d -> d.path().equals(path))
        .map(Document::id)
        .findFirst()
        .orElse(null);
  }

  /** What it held, by the newest state of the document that was copied with it. */
  private Lost lost(Document document, Path project, Path file) {
    if (!file.startsWith(project)) {
      return new Lost(file, null, null);
    }
    ContentId content = snapshots.seenLast(document, RelativePath.of(project, file)).orElse(null);
    return new Lost(file, content, content == null ? null : files.fileOf(content).orElse(null));
  }

  private List<Path> standing(Path folder) throws IOException {
    List<Path> standing = new ArrayList<>();
    new Walk(disk, () -> standing.size() >= MOST_FILES)
        .through(
            folder,
            new Walk.Visitor() {
              @Override
              public void folder(Path entered) {}

              @Override
              public void file(Path file, FileFacts facts) {
                standing.add(file);
              }

              @Override
              public void closed(Path unreadable) {}
            });
    return standing;
  }

  /** Looks at pictures in the reader's process, at no more than a number of them each time. */
  private final class Looking implements Suggestions.Looking {
    private final AtomicInteger left = new AtomicInteger(MOST_LOOKS);

    @Override
    public long size(Path file) throws IOException {
      return disk.facts(file).map(FileFacts::size).orElse(-1L);
    }

    @Override
    public ContentId identify(Path file) throws IOException {
      return publisher.identify(file);
    }

    @Override
    public Optional<PictureLikeness> look(Path file) throws IOException {
      String name = file.getFileName().toString();
      FileFacts facts = disk.facts(file).orElse(null);
      if (facts == null || !Readers.isRaster(name)) {
        return Optional.empty();
      }
      Seen seen = new Seen(file, facts.size(), facts.modifiedNanos());
      Optional<PictureLikeness> known = looks.getIfPresent(seen);
      if (known == null && left.getAndDecrement() > 0) {
        known = looked(file, name);
        looks.put(seen, known);
      }
      return known == null ? Optional.empty() : known;
    }

    private Optional<PictureLikeness> looked(Path file, String name) throws IOException {
      try {
        return PictureLikeness.of(reader.picture(file, name, Frame.SMALL));
      } catch (ProblemException cannotBeDrawn) {
        return Optional.empty();
      }
    }
  }

  /** A link of a document and the file that serves it by a rule. */
  record RuleMatch(UUID document, String path, String uri, String file) {}

  /**
   * What lay in one folder lies in another now: every missing link below the first whose file
   * stands at the same path below the second.
   */
  List<RuleMatch> byRule(UUID project, String from, String to) throws IOException {
    Path before = folder(from);
    Path now = guard.folder(to);
    List<RuleMatch> matches = new ArrayList<>();
    for (LinkRow row : links.of(project)) {
      Path file = Path.of(row.file());
      boolean lost =
          row.status() == LinkRow.Status.MISSING || row.status() == LinkRow.Status.OUTSIDE;
      if (lost && row.canRelink() && file.startsWith(before)) {
        Path there = now.resolve(before.relativize(file)).normalize();
        if (there.startsWith(now) && disk.facts(there).filter(FileFacts::isFile).isPresent()) {
          matches.add(new RuleMatch(row.document(), row.path(), row.uri(), there.toString()));
        }
      }
    }
    return matches;
  }

  /** A folder that need not stand any more. */
  private static Path folder(String text) {
    try {
      return Path.of(text).normalize();
    } catch (InvalidPathException odd) {
      throw ProblemException.badInput("bad-path", "Not a usable path: " + odd.getReason() + ".");
    }
  }

  /**
   * Writes the document with other names to the side; the names are relative to it.
   *
   * @param wanted the file to name by what is named now
   */
  PartRestores.Relinked prepare(UUID id, Map<String, String> wanted) throws IOException {
    Document document = projects.document(id);
    Path folder = document.live().getParent();
    Map<String, String> names = new LinkedHashMap<>();
    for (Map.Entry<String, String> one : wanted.entrySet()) {
      Path inside = guard.folderToMake(one.getValue());
      if (disk.facts(inside).filter(FileFacts::isFile).isEmpty()) {
        throw ProblemException.badInput(
            "no-file", one.getValue() + " is no file that stands there. Nothing was touched.");
      }
      String relative = guard.folder(folder.toString()).relativize(inside).toString();
      names.put(
          one.getKey(),
          Relink.written(
              document.path(), relative.replace(inside.getFileSystem().getSeparator(), "/")));
    }
    return restores.relink(id, names);
  }
}
