package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;

/** What a program leaves behind, found by its profile. */
public final class Leftovers {
  private Leftovers() {}

  /** A file found where the profile says, most volatile kinds and smallest first. */
  public record Leftover(
      UUID document, String documentPath, Path path, CopyKind kind, FileFacts facts) {}

  /**
   * Files that belong to a document by the program's profile; links are not followed.
   *
   * @param documents paths of all documents whose copies may lie in the same folders
   */
  public static List<Leftover> find(
      Disk disk,
      ProjectRecord project,
      UUID document,
      String documentPath,
      Collection<Path> documents) {
    Path live = Path.of(project.folder()).resolve(documentPath);
    List<Leftover> found = new ArrayList<>();
    for (ProgramProfile.Leftover rule : project.program().leftovers()) {
      for (Path folder : rule.folders(disk, live)) {
        for (Path path : listed(disk, folder)) {
          FileFacts facts = facts(disk, path);
          if (facts != null
              && !path.equals(live)
              && !documents.contains(path)
              && rule.isOf(path.getFileName().toString(), live, documents)) {
            found.add(new Leftover(document, documentPath, path, rule.kind(), facts));
          }
        }
      }
    }
    found.sort(
        Comparator.comparingInt(Leftovers::volatility)
            .thenComparing(l -> l.facts().size())
            .thenComparing(Leftover::path));
    return found;
  }

  private static int volatility(Leftover leftover) {
    return switch (leftover.kind()) {
      case RESCUE -> 0;
      case AUTOSAVE -> 1;
      default -> 2;
    };
  }

  static List<Path> listed(Disk disk, Path folder) {
    try {
      return disk.list(folder);
    } catch (IOException absent) {
      return List.of();
    }
  }

  @Nullable
  static FileFacts facts(Disk disk, Path file) {
    try {
      return disk.facts(file).filter(FileFacts::isFile).orElse(null);
    } catch (IOException unreadable) {
      return null;
    }
  }
}
