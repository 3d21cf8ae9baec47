package dev.kavrin.server.version;

import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.incident.Leftovers;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.project.Document;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Copies of a document on disk that Kavrin did not make. */
@Component
class FoundCopies {
  private static final Logger LOG = LoggerFactory.getLogger(FoundCopies.class);

  private static final long ONE_ROUND_NANOS = 2_000_000_000L;

  private volatile Lives lives;
  private final Engine engine;
  private final StrayService strays;
  private final Map<UUID, List<Looked>> looked = new ConcurrentHashMap<>();

  FoundCopies(Engine engine, StrayService strays) {
    this.engine = engine;
    this.strays = strays;
  }

  record Found(Path path, CopyKind kind, FileFacts facts) {}

  /** A folder that was looked at, with how many files lie in it. */
  record Looked(String folder, int files, boolean reachable) {}

  /** Folders looked at for a document at the last look. */
  List<Looked> lookedAt(UUID document) {
    return looked.getOrDefault(document, List.of());
  }

  /** All that stand; what cannot be looked into is told. */
  List<Found> of(Document document, Kept kept) {
    List<Found> found = new ArrayList<>();
    Map<Path, Integer> folders = new HashMap<>();
    try {
      fileAt(document.live(), CopyKind.LIVE).ifPresent(found::add);
      Leftovers.find(engine.disk(), kept.project(), document.id(), document.path(), livePaths())
          .forEach(l -> found.add(new Found(l.path(), l.kind(), l.facts())));
      found.addAll(strays(document, found));
      found.addAll(aside(document));
      foldersOf(document, kept).forEach(folder -> folders.put(folder, count(folder)));
    } catch (IOException unreadable) {
      LOG.warn("Looking for copies of {}: {}", document.live(), unreadable.getMessage());
    }
    looked.put(
        document.id(),
        folders.entrySet().stream()
            .map(
                e ->
                    new Looked(e.getKey().toString(), Math.max(0, e.getValue()), e.getValue() >= 0))
            .sorted(Comparator.comparing(Looked::folder))
            .toList());
    return found;
  }

  /** Where all documents stand, worked out once for a round of looking at all of them. */
  private List<Path> livePaths() {
    Lives now = lives;
    if (now == null || System.nanoTime() - now.since() > ONE_ROUND_NANOS) {
      now = new Lives(engine.livePaths(), System.nanoTime());
      lives = now;
    }
    return now.paths();
  }

  private record Lives(List<Path> paths, long since) {}

  private Optional<Found> fileAt(Path path, CopyKind kind) throws IOException {
    return engine
        .disk()
        .facts(path)
        .filter(FileFacts::isFile)
        .map(facts -> new Found(path, kind, facts));
  }

  private List<Found> strays(Document document, List<Found> besides) throws IOException {
    Set<Path> known = besides.stream().map(Found::path).collect(Collectors.toSet());
    List<Found> found = new ArrayList<>();
    for (Map.Entry<Path, CopyKind> stray : strays.accepted(document).entrySet()) {
      if (!known.contains(stray.getKey())) {
        fileAt(stray.getKey(), stray.getValue()).ifPresent(found::add);
      }
    }
    return found;
  }

  private List<Found> aside(Document document) throws IOException {
    Path aside = document.live().resolveSibling(FolderMarker.FOLDER).resolve("aside");
    String prefix = FileName.of(document.live().getFileName().toString()).stem() + "-aside-";
    List<Found> found = new ArrayList<>();
    for (Path path :
        engine.disk().facts(aside).isPresent() ? engine.disk().list(aside) : List.<Path>of()) {
      if (path.getFileName().toString().startsWith(prefix)) {
        fileAt(path, CopyKind.ASIDE).ifPresent(found::add);
      }
    }
    return found;
  }

  private Set<Path> foldersOf(Document document, Kept kept) {
    Set<Path> folders = new HashSet<>();
    folders.add(document.live().getParent());
    kept.project()
        .program()
        .leftovers()
        .forEach(l -> folders.addAll(l.folders(engine.disk(), document.live())));
    kept.folders().all().forEach(f -> folders.add(f.folderFor(kept.project(), document.path())));
    return folders;
  }

  private int count(Path folder) {
    try {
      return engine.disk().list(folder).size();
    } catch (IOException absent) {
      return -1;
    }
  }
}
