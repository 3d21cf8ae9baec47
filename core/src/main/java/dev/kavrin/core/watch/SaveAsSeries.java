package dev.kavrin.core.watch;

import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.naming.FileName;
import java.nio.file.Path;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;

/** Documents that follow one another by "save as" with a rising number. */
public final class SaveAsSeries {
  private SaveAsSeries() {}

  /**
   * The documents of a document's chain, itself included if it is among them, by rising number.
   *
   * @param path relative to the project folder
   */
  public static List<JournalEntry.DocumentSet> of(
      String path, Collection<JournalEntry.DocumentSet> all) {
    return all.stream()
        .filter(d -> !d.linked() && isSame(Path.of(path), Path.of(d.path())))
        .sorted(
            Comparator.comparingInt((JournalEntry.DocumentSet d) -> number(d.path()))
                .thenComparing(JournalEntry.DocumentSet::path))
        .toList();
  }

  private static boolean isSame(Path a, Path b) {
    return Objects.equals(a.getParent(), b.getParent()) && name(a).chain().equals(name(b).chain());
  }

  private static FileName name(Path path) {
    return FileName.of(path.getFileName().toString());
  }

  private static int number(String path) {
    return name(Path.of(path)).trailingNumber().orElse(0);
  }
}
