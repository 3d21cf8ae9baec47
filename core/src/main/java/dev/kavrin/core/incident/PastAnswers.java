package dev.kavrin.core.incident;

import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import java.util.Comparator;
import java.util.List;

/** What people answered when they were asked how a program had ended. */
record PastAnswers(BackupFolders folders) {
  private static final int LAST = 2;

  /** What people answered the last times is not asked again. */
  boolean meantEachTime(ProjectRecord project) {
    List<String> answers =
        folders.history().incidents().stream()
            .filter(i -> i.project().equals(project.id()) && !i.open())
            .sorted(Comparator.comparing(JournalEntry.IncidentSet::to).reversed())
            .map(JournalEntry.IncidentSet::kind)
            .limit(LAST)
            .toList();
    return answers.size() == LAST && answers.stream().allMatch(IncidentWatch.MEANT::equals);
  }

  /**
   * True if a person once said of evidence alone that the program had been closed.
   *
   * @param evidence its last words
   */
  boolean wasMeantDespite(ProjectRecord project, String evidence) {
    return folders.history().incidents().stream()
        .filter(i -> i.project().equals(project.id()) && i.kind().equals(IncidentWatch.MEANT))
        .flatMap(i -> i.evidence().stream())
        .anyMatch(e -> e.endsWith(": " + evidence));
  }
}
