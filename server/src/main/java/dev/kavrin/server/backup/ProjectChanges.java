package dev.kavrin.server.backup;

import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.lane.Alone;
import dev.kavrin.core.units.Clockwork;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;

/** Changes of a project's plan, rule, program and backup folders: written down, then in force. */
public final class ProjectChanges {
  private final Clockwork clock;
  private final DocumentFinder finder;
  private final Alone projects = new Alone();
  private final Set<UUID> toApply = ConcurrentHashMap.newKeySet();

  ProjectChanges(Clockwork clock, DocumentFinder finder) {
    this.clock = clock;
    this.finder = finder;
  }

  /** Has a project to itself: who looks first and changes then finds it as it looked. */
  public <T> T alone(UUID project, Alone.Doing<T> change) throws IOException {
    return projects.with(project, change);
  }

  /**
   * Changes a project's plan, rule or program. What it drops goes at once, or outside the hours of
   * a place at the first look within them.
   */
  public void change(Kept kept, ProjectRecord changed, String who) throws IOException {
    kept.folders().record(new JournalEntry.ProjectSet(clock.instant(), who, changed));
    kept.watch().change(changed);
    finder.look(kept);
    toApply.add(changed.id());
    if (!kept.watch().isOutOfHours()) {
      applyChanged(kept);
    }
  }

  boolean isChanged(Kept kept) {
    return toApply.contains(kept.project().id());
  }

  void applyChanged(Kept kept) throws IOException {
    if (toApply.remove(kept.project().id())) {
      for (UUID document : kept.watch().watched()) {
        kept.retention().apply(kept.project(), document);
      }
    }
  }

  /** Takes one more recovery folder into a project; it is caught up from then on. */
  public void addRecovery(Kept kept, BackupFolder folder, String who) throws IOException {
    List<String> all = new ArrayList<>(kept.project().recoveries());
    all.add(folder.root().toString());
    ProjectRecord changed = kept.project().keptIn(all, kept.project().leaving());
    kept.folders().record(new JournalEntry.ProjectSet(clock.instant(), who, changed));
    kept.watch().change(changed);
    kept.folders().add(folder);
  }

  /** Begins to move a project's copies out of one of its folders, or with null stops doing so. */
  public void leave(Kept kept, @Nullable String root, String who) throws IOException {
    ProjectRecord changed = kept.project().keptIn(kept.project().recoveries(), root);
    kept.folders().record(new JournalEntry.ProjectSet(clock.instant(), who, changed));
    kept.watch().change(changed);
  }
}
