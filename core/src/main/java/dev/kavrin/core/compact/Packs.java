package dev.kavrin.core.compact;

import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.pack.CompactedDisk;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.UUID;

/** Where the packs of a backup folder lie. */
final class Packs {
  private static final String ENDING = ".pack";

  private final CompactedDisk disk;
  private final BackupFolder folder;

  Packs(CompactedDisk disk, BackupFolder folder) {
    this.disk = disk;
    this.folder = folder;
  }

  private Path all() {
    return folder.root().resolve(FolderMarker.FOLDER).resolve("packs");
  }

  /** The folder for those of a document. */
  Path of(UUID document) {
    return all().resolve(document.toString());
  }

  Path fresh(UUID document) {
    return of(document).resolve(UUID.randomUUID() + ENDING);
  }

  /** As recipes name it. */
  String name(Path pack) {
    return folder.relative(pack);
  }

  /** Documents that have some. */
  List<Path> folders() throws IOException {
    return isFolder(all()) ? disk.list(all()).stream().sorted().toList() : List.of();
  }

  /** Those in such a folder, by name; none if it is absent. */
  List<Path> in(Path packs) throws IOException {
    return isFolder(packs)
        ? disk.list(packs).stream().filter(p -> p.toString().endsWith(ENDING)).sorted().toList()
        : List.of();
  }

  private boolean isFolder(Path path) throws IOException {
    return disk.facts(path).filter(FileFacts::isFolder).isPresent();
  }
}
