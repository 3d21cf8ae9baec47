package dev.kavrin.core.journal;

import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.JournalEntry.IncidentSet;
import dev.kavrin.core.journal.JournalEntry.Leaned;
import dev.kavrin.core.journal.JournalEntry.LinksSeen;
import dev.kavrin.core.journal.JournalEntry.LossAsked;
import dev.kavrin.core.journal.JournalEntry.Marked;
import dev.kavrin.core.journal.JournalEntry.ProjectSet;
import dev.kavrin.core.journal.JournalEntry.SetTaken;
import dev.kavrin.core.journal.JournalEntry.SettingsPut;
import dev.kavrin.core.journal.JournalEntry.Written;
import dev.kavrin.core.plan.Plan;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What a journal comes to: the backups that stand, facts by their key, what was left open. */
public final class History {
  /**
   * What waits in the bin.
   *
   * @param capture what it was
   * @param bin where it lies
   * @param byHand true if a person had it go
   * @param stands true if its backup stands, compacted, and only its plain bytes went
   */
  public record Binned(
      BackupRecord capture, String bin, Instant since, boolean byHand, boolean stands) {}

  private final Facts facts = new Facts();
  private final Standing standing = new Standing();
  private final Map<UUID, Operation> open = new LinkedHashMap<>();
  private final Map<UUID, JournalEntry.Receipt> receipts = new LinkedHashMap<>();
  private final Map<UUID, List<ProjectSet>> plans = new LinkedHashMap<>();
  private Instant lastAt = Instant.EPOCH;
  private long size;

  public static History of(Collection<JournalEntry> entries) {
    History history = new History();
    entries.forEach(history::add);
    return history;
  }

  public synchronized void add(JournalEntry entry) {
    size++;
    lastAt = entry.at();
    if (entry instanceof Fact fact) {
      take(fact, entry);
    } else if (entry instanceof JournalEntry.Begun e) {
      open.put(e.operation().id(), e.operation());
    } else if (entry instanceof JournalEntry.TakenBack e) {
      open.remove(e.op());
    } else if (entry instanceof JournalEntry.Done e) {
      open.remove(e.operation().id());
      done(e.operation().planned(), e.at());
    } else if (entry instanceof JournalEntry.Judged e) {
      standing.judged(e.path(), e.verdict(), e.why(), e.at());
    } else if (entry instanceof JournalEntry.Reread e) {
      standing.read(e.path(), e.at());
    } else if (entry instanceof JournalEntry.Left e) {
      facts.remove(ProjectSet.class, e.project());
    }
  }

  private void take(Fact fact, JournalEntry entry) {
    facts.put(fact, entry);
    if (entry instanceof ProjectSet set) {
      List<ProjectSet> all = plans.computeIfAbsent(set.project().id(), k -> new ArrayList<>());
      Plan last = all.isEmpty() ? null : all.get(all.size() - 1).project().plan();
      if (!set.project().plan().equals(last)) {
        all.add(set);
      }
    }
  }

  private void done(Operation.Planned planned, Instant at) {
    if (planned instanceof Operation.Backup p) {
      standing.put(p.backup(), at);
    } else if (planned instanceof Operation.Drop p) {
      standing.drop(p.path(), p.bin(), p.isByHand(), at);
    } else if (planned instanceof Operation.TakeBack p) {
      standing.takeBack(p.bin(), p.path(), at);
    } else if (planned instanceof Operation.Purge p) {
      standing.purge(p.bin());
    } else if (planned instanceof Operation.Compact p) {
      standing.compact(p, at);
    } else if (planned instanceof Operation.Restore p) {
      p.members().forEach(m -> receipts.put(m.id(), m.receipt()));
    } else if (planned instanceof Operation.SettingsChange p) {
      take(p.put(), p.put());
    }
  }

  synchronized <T> List<T> all(Class<T> kind, UUID scope) {
    return facts.all(kind, scope);
  }

  /** Whatever holds for a project in any folder, in an order in which it can be taken in. */
  public synchronized List<JournalEntry> facts(UUID project) {
    return facts.about(project);
  }

  /** True if a fact of another folder is later than what is known here. */
  public synchronized boolean isNews(JournalEntry entry) {
    return facts.isNews(entry);
  }

  /** Entries taken in so far. */
  public synchronized long size() {
    return size;
  }

  /** When the last entry was made. */
  synchronized Instant lastAt() {
    return lastAt;
  }

  /** Operations that were begun and neither done nor taken back. */
  public synchronized List<Operation> undone() {
    return List.copyOf(open.values());
  }

  public synchronized List<JournalEntry.Receipt> receipts() {
    return List.copyOf(receipts.values());
  }

  public synchronized Optional<JournalEntry.Receipt> receipt(UUID id) {
    return Optional.ofNullable(receipts.get(id));
  }

  /** The standing backup that was read longest ago, if that was before a moment. */
  public synchronized Optional<BackupRecord> longestUnread(Instant before) {
    return standing.longestUnread(before);
  }

  /** True if a backup was found to be other than what was written, or could not be read again. */
  public synchronized boolean isFaulty(String path) {
    return standing.isFaulty(path);
  }

  /** Backups that stand in the folder, in order of birth. */
  public synchronized List<BackupRecord> captures(UUID document) {
    return standing.of(document);
  }

  public synchronized List<BackupRecord> allCaptures() {
    return standing.all();
  }

  /** True if a backup that stands is put together from packs. */
  public synchronized boolean isCompacted(String path) {
    return standing.stored(path) != null;
  }

  /** Bytes a backup that stands needs on its disk: its own, or what compacting it took. */
  public synchronized long stored(BackupRecord backup) {
    Long stored = standing.stored(backup.path());
    return stored == null ? backup.content().length() : stored;
  }

  /** The same of what waits in the bin. */
  public synchronized long stored(Binned binned) {
    Long stored = standing.stored(binned.bin());
    return stored == null ? binned.capture().content().length() : stored;
  }

  public synchronized List<Binned> bin() {
    return standing.bin();
  }

  /** The highest birth number given so far, binned backups included; 0 if none. */
  public synchronized long lastSequence(UUID document) {
    return Stream.concat(
            standing.of(document).stream(), standing.bin().stream().map(Binned::capture))
        .filter(c -> c.document().equals(document))
        .mapToLong(BackupRecord::sequence)
        .max()
        .orElse(0);
  }

  /** Whenever a project's plan became another, oldest first. */
  public synchronized List<ProjectSet> plans(UUID project) {
    return List.copyOf(plans.getOrDefault(project, List.of()));
  }

  public synchronized List<ProjectRecord> projects() {
    return facts.all(ProjectSet.class).stream().map(ProjectSet::project).toList();
  }

  public synchronized Optional<ProjectRecord> project(UUID id) {
    return facts.one(ProjectSet.class, id).map(ProjectSet::project);
  }

  /** When a project was last set; empty if it is not known here. */
  public synchronized Optional<Instant> projectSet(UUID project) {
    return facts.one(ProjectSet.class, project).map(ProjectSet::at);
  }

  public synchronized List<DocumentSet> documents(UUID project) {
    return all(DocumentSet.class, project);
  }

  /** A document by its id, of whatever project. */
  public synchronized Optional<DocumentSet> document(UUID id) {
    return facts.anywhere(DocumentSet.class, id);
  }

  public synchronized Optional<Written> lastWritten(UUID document) {
    return facts.one(Written.class, document);
  }

  public synchronized List<IncidentSet> incidents() {
    return facts.all(IncidentSet.class);
  }

  /** Copies a program was seen to write of a document of its own accord. */
  public synchronized List<ProgramWrote> programWrote(UUID document) {
    return all(ProgramWrote.class, document);
  }

  /** Spans in which a project's program was alive, in the order they began. */
  public synchronized List<ProgramSeen> programSeen(UUID project) {
    return all(ProgramSeen.class, project);
  }

  /** Moments at which documents of a project were copied together. */
  public synchronized List<JournalEntry.Moment> moments(UUID project) {
    return all(JournalEntry.Moment.class, project);
  }

  public synchronized Set<String> marks(UUID document, String state) {
    return all(Marked.class, document).stream()
        .filter(m -> m.state().equals(state) && m.on())
        .map(Marked::mark)
        .collect(Collectors.toUnmodifiableSet());
  }

  /** A project's folder layout as text; empty if none was set. */
  public synchronized Optional<String> layout(UUID project) {
    return facts.one(JournalEntry.LayoutSet.class, project).map(JournalEntry.LayoutSet::text);
  }

  /** Corrections of a program's settings, oldest first. */
  public synchronized List<SettingsPut> settingsPut(UUID project) {
    return all(SettingsPut.class, project);
  }

  /** What the versions of a document used when they were copied, by version. */
  public synchronized Map<String, List<Leaned>> leansOn(UUID document) {
    return all(LinksSeen.class, document).stream()
        .collect(Collectors.toMap(LinksSeen::state, LinksSeen::links));
  }

  /** What a version used when it was copied; empty if it used nothing. */
  public synchronized List<Leaned> leansOn(UUID document, String state) {
    return facts.one(LinksSeen.class, document, state).map(LinksSeen::links).orElse(List.of());
  }

  /** Of every version of every document: what it used when it was copied. */
  synchronized List<LinksSeen> allLinks() {
    return facts.all(LinksSeen.class);
  }

  /** Steps of a run that were copied, in the order (run, step). */
  public synchronized List<SetRecord> sets(UUID document) {
    return all(SetTaken.class, document).stream()
        .map(SetTaken::set)
        .sorted(Comparator.comparing(SetRecord::place))
        .toList();
  }

  /** Sudden losses of a document that were asked about, answered ones too, as they stand now. */
  public synchronized List<LossAsked> losses(UUID document) {
    return all(LossAsked.class, document);
  }

  /** Those of a project's documents that nobody answered yet. */
  public synchronized List<LossAsked> openLosses(UUID project) {
    List<LossAsked> open = facts.all(LossAsked.class).stream().filter(LossAsked::isOpen).toList();
    if (open.isEmpty()) {
      return open;
    }
    Set<UUID> its = documents(project).stream().map(DocumentSet::id).collect(Collectors.toSet());
    return open.stream().filter(a -> its.contains(a.document())).toList();
  }
}
