package dev.kavrin.core.journal;

import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import java.util.List;
import java.util.UUID;

/** Who uses a linked file. */
public final class LinkedFrom {
  private LinkedFrom() {}

  /**
   * Documents of a project of which a standing backup uses a file, by their paths.
   *
   * @param path of the file, relative to the project folder
   */
  public static List<String> documents(History history, UUID project, String path) {
    return history.documents(project).stream()
        .filter(
            d ->
                history.captures(d.id()).stream()
                    .flatMap(c -> history.leansOn(d.id(), c.state()).stream())
                    .anyMatch(l -> l.path().equals(path)))
        .map(DocumentSet::path)
        .toList();
  }
}
