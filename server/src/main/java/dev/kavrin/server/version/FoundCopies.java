package dev.kavrin.server.version;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.incident.Leftovers;
import dev.kavrin.core.journal.BackupFolder;
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
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Copies of a document on disk that Kavrin did not make. */
@Component
class FoundCopies {
  private static final Logger LOG = LoggerFactory.getLogger(FoundCopies.class);

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
    Disk disk = engine.disk();
    List<Found> found = new ArrayList<>();
    Map<Path, Integer> folders = new HashMap<>();
    try {
      disk.facts(document.live())
          .filter(FileFacts::isFile)
          .ifPresent(f -> found.add(new Found(document.live(), CopyKind.LIVE, f)));
      for (Leftovers.Leftover l :
          Leftovers.find(disk, kept.project(), document.id(), document.path())) {
        found.add(new Found(l.path(), l.kind(), l.facts()));
      }
      for (Map.Entry<Path, CopyKind> stray : strays.accepted(document).entrySet()) {
        boolean known = found.stream().anyMatch(f -> f.path().equals(stray.getKey()));
        disk.facts(stray.getKey())
            .filter(f -> f.isFile() && !known)
            .ifPresent(f -> found.add(new Found(stray.getKey(), stray.getValue(), f)));
      }
      Path aside = document.live().resolveSibling(FolderMarker.FOLDER).resolve("aside");
      String stem = FileName.of(document.live().getFileName().toString()).stem();
      for (Path path : disk.facts(aside).isPresent() ? disk.list(aside) : List.<Path>of()) {
        FileFacts facts = disk.facts(path).orElse(null);
        if (facts != null
            && facts.isFile()
            && path.getFileName().toString().startsWith(stem + "-aside-")) {
          found.add(new Found(path, CopyKind.ASIDE, facts));
        }
      }
      folders.put(document.live().getParent(), count(document.live().getParent()));
      kept.project()
          .program()
          .leftovers()
          .forEach(
              l ->
                  l.folders(disk, document.live())
                      .forEach(folder -> folders.put(folder, count(folder))));
      for (BackupFolder recovery : kept.folders().all()) {
        Path folder = recovery.folderFor(kept.project(), document.path());
        folders.put(folder, count(folder));
      }
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

  private int count(Path folder) {
    try {
      return engine.disk().list(folder).size();
    } catch (IOException absent) {
      return -1;
    }
  }
}
