package dev.kavrin.core.journal;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.JournalEntry.Intent;
import dev.kavrin.core.keep.KeepSet;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.version.Manifest;
import dev.kavrin.core.version.SetRule.Role;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;

/** What a journal comes to: the copies that stand, the marks on states, what was left undone. */
public final class History {
  /** A copy in the bin: what it was, where it lies, since when. */
  public record Binned(BackupRecord capture, String bin, Instant since) {}

  private final Map<String, BackupRecord> standing = new LinkedHashMap<>();
  private final Map<String, Binned> binned = new LinkedHashMap<>();
  private final Map<String, Instant> lastRead = new HashMap<>();
  private Instant lastAt = Instant.EPOCH;
  private long size;
  private final Map<UUID, Intent> open = new LinkedHashMap<>();
  private final Map<String, Map<String, JournalEntry.Marked>> marks = new LinkedHashMap<>();
  private final Map<UUID, JournalEntry.ProjectSet> projects = new LinkedHashMap<>();
  private final Map<UUID, List<JournalEntry.ProjectSet>> plans = new LinkedHashMap<>();
  private final Map<UUID, JournalEntry.DocumentSet> documents = new LinkedHashMap<>();
  private final Map<UUID, JournalEntry.Written> lastWritten = new LinkedHashMap<>();
  private final Map<UUID, JournalEntry.Receipt> receipts = new LinkedHashMap<>();
  private final Map<UUID, JournalEntry.GroupMeant> groups = new LinkedHashMap<>();
  private final Set<UUID> openGroups = new LinkedHashSet<>();
  private final Map<UUID, JournalEntry.IncidentSet> incidents = new LinkedHashMap<>();
  private final Map<UUID, JournalEntry.Moment> moments = new LinkedHashMap<>();
  private final Map<UUID, Map<SetKey, JournalEntry.SetTaken>> sets = new LinkedHashMap<>();

  private final Map<UUID, JournalEntry.LayoutSet> layouts = new LinkedHashMap<>();
  private final Map<UUID, JournalEntry.SettingsPut> settings = new LinkedHashMap<>();
  private final Map<UUID, Map<String, JournalEntry.LinksSeen>> links = new LinkedHashMap<>();

  private final Map<UUID, Map<String, JournalEntry.LossAsked>> losses = new LinkedHashMap<>();

  /** A step is recorded once; a later record of it holds. */
  private record SetKey(long run, long step) {
    static SetKey of(JournalEntry.SetTaken taken) {
      return new SetKey(taken.set().run(), taken.set().step());
    }
  }

  public static History of(Collection<JournalEntry> entries) {
    History history = new History();
    entries.forEach(history::add);
    return history;
  }

  public synchronized void add(JournalEntry entry) {
    size++;
    lastAt = entry.at();
    if (entry instanceof Intent e) {
      open.put(e.op(), e);
    } else if (entry instanceof JournalEntry.Abandoned e) {
      open.remove(e.op());
    } else if (entry instanceof JournalEntry.Captured e) {
      open.remove(e.op());
      standing.put(e.capture().path(), e.capture());
      lastRead.put(e.capture().path(), e.at());
    } else if (entry instanceof JournalEntry.Reread e) {
      lastRead.put(e.path(), e.at());
    } else if (entry instanceof JournalEntry.Dropped e) {
      open.remove(e.op());
      BackupRecord gone = standing.remove(e.path());
      if (gone != null) {
        binned.put(e.bin(), new Binned(gone, e.bin(), e.at()));
      }
    } else if (entry instanceof JournalEntry.Returned e) {
      open.remove(e.op());
      Binned back = binned.remove(e.bin());
      if (back != null) {
        standing.put(e.path(), back.capture());
      }
    } else if (entry instanceof JournalEntry.Purged e) {
      open.remove(e.op());
      binned.remove(e.bin());
    } else if (entry instanceof JournalEntry.Cleared e) {
      open.remove(e.op());
    } else if (entry instanceof JournalEntry.Judged e) {
      standing.computeIfPresent(e.path(), (p, c) -> c.found(e.verdict(), e.why()));
      lastRead.put(e.path(), e.at());
    } else if (entry instanceof JournalEntry.Restored e) {
      open.remove(e.op());
      receipts.put(e.op(), e.receipt());
    } else {
      addFacts(entry);
    }
  }

  private void addFacts(JournalEntry entry) {
    if (entry instanceof JournalEntry.Marked e) {
      marks.computeIfAbsent(e.document() + e.state(), k -> new LinkedHashMap<>()).put(e.mark(), e);
    } else if (entry instanceof JournalEntry.ProjectSet e) {
      projects.put(e.project().id(), e);
      remember(e);
    } else if (entry instanceof JournalEntry.Left e) {
      projects.remove(e.project());
    } else if (entry instanceof JournalEntry.DocumentSet e) {
      documents.put(e.id(), e);
    } else if (entry instanceof JournalEntry.Written e) {
      lastWritten.put(e.document(), e);
    } else if (entry instanceof JournalEntry.IncidentSet e) {
      incidents.put(e.id(), e);
    } else if (entry instanceof JournalEntry.GroupMeant e) {
      groups.put(e.group(), e);
      openGroups.add(e.group());
    } else if (entry instanceof JournalEntry.GroupEnded e) {
      openGroups.remove(e.group());
    } else if (entry instanceof JournalEntry.Moment e) {
      moments.put(e.id(), e);
    } else if (entry instanceof JournalEntry.SetTaken e) {
      sets.computeIfAbsent(e.document(), k -> new LinkedHashMap<>()).put(SetKey.of(e), e);
    } else if (entry instanceof JournalEntry.LinksSeen e) {
      links.computeIfAbsent(e.document(), k -> new LinkedHashMap<>()).put(e.state(), e);
    } else if (entry instanceof JournalEntry.LossAsked e) {
      losses.computeIfAbsent(e.document(), k -> new LinkedHashMap<>()).put(e.after(), e);
    } else if (entry instanceof JournalEntry.LayoutSet e) {
      layouts.put(e.project(), e);
    } else if (entry instanceof JournalEntry.SettingsPut e) {
      settings.put(e.op(), e);
    }
  }

  private void remember(JournalEntry.ProjectSet set) {
    List<JournalEntry.ProjectSet> all =
        plans.computeIfAbsent(set.project().id(), k -> new ArrayList<>());
    Plan last = all.isEmpty() ? null : all.get(all.size() - 1).project().plan();
    if (!set.project().plan().equals(last)) {
      all.add(set);
    }
  }

  /** Entries taken in so far. */
  public synchronized long size() {
    return size;
  }

  /** When the last entry was made. */
  synchronized Instant lastAt() {
    return lastAt;
  }

  /** The standing copy that was read longest ago, if that was before a moment. */
  public synchronized Optional<BackupRecord> longestUnread(Instant before) {
    return standing.values().stream()
        .filter(c -> lastRead.getOrDefault(c.path(), Instant.EPOCH).isBefore(before))
        .min(
            Comparator.comparing(
                (BackupRecord c) -> lastRead.getOrDefault(c.path(), Instant.EPOCH)));
  }

  /** Whenever a project's plan became another, oldest first. */
  public synchronized List<JournalEntry.ProjectSet> plans(UUID project) {
    return List.copyOf(plans.getOrDefault(project, List.of()));
  }

  /** Copies that stand in the folder, in order of birth. */
  public synchronized List<BackupRecord> captures(UUID document) {
    return standing.values().stream()
        .filter(c -> c.document().equals(document))
        .sorted(Comparator.comparingLong(BackupRecord::sequence))
        .toList();
  }

  public synchronized List<BackupRecord> allCaptures() {
    return List.copyOf(standing.values());
  }

  public synchronized List<Binned> bin() {
    return List.copyOf(binned.values());
  }

  public synchronized List<Intent> undone() {
    return List.copyOf(open.values());
  }

  public synchronized List<ProjectRecord> projects() {
    return projects.values().stream().map(JournalEntry.ProjectSet::project).toList();
  }

  public synchronized Optional<ProjectRecord> project(UUID id) {
    return Optional.ofNullable(projects.get(id)).map(JournalEntry.ProjectSet::project);
  }

  public synchronized List<JournalEntry.DocumentSet> documents(UUID project) {
    return documents.values().stream().filter(d -> d.project().equals(project)).toList();
  }

  public synchronized Optional<JournalEntry.Written> lastWritten(UUID document) {
    return Optional.ofNullable(lastWritten.get(document));
  }

  public synchronized Optional<JournalEntry.Receipt> receipt(UUID op) {
    return Optional.ofNullable(receipts.get(op));
  }

  /** Groups of restores that were begun and not ended. */
  public synchronized List<JournalEntry.GroupMeant> openGroups() {
    return openGroups.stream().map(groups::get).toList();
  }

  public synchronized Optional<JournalEntry.GroupMeant> group(UUID id) {
    return Optional.ofNullable(groups.get(id));
  }

  public synchronized List<JournalEntry.IncidentSet> incidents() {
    return List.copyOf(incidents.values());
  }

  /** When incidents of a document were noticed. */
  public synchronized List<Instant> incidentTimes(UUID document) {
    return incidents.values().stream()
        .filter(i -> i.documents().contains(document))
        .map(JournalEntry.IncidentSet::to)
        .toList();
  }

  /** When a project was last set; empty if it is not known here. */
  public synchronized Optional<Instant> projectSet(UUID project) {
    return Optional.ofNullable(projects.get(project)).map(JournalEntry.ProjectSet::at);
  }

  /** Whatever holds for a project in any folder, in an order in which it can be taken in. */
  public synchronized List<JournalEntry> facts(UUID project) {
    List<JournalEntry> facts = new ArrayList<>();
    Optional.ofNullable(projects.get(project)).ifPresent(facts::add);
    for (JournalEntry.DocumentSet document : documents(project)) {
      facts.add(document);
      lastWritten(document.id()).ifPresent(facts::add);
      marks.values().stream()
          .flatMap(m -> m.values().stream())
          .filter(m -> m.document().equals(document.id()))
          .forEach(facts::add);
      facts.addAll(sets.getOrDefault(document.id(), Map.of()).values());
      facts.addAll(links.getOrDefault(document.id(), Map.of()).values());
    }
    incidents.values().stream().filter(i -> i.project().equals(project)).forEach(facts::add);
    Optional.ofNullable(layouts.get(project)).ifPresent(facts::add);
    facts.addAll(settingsPut(project));
    facts.addAll(moments(project));
    return facts;
  }

  /** True if a fact of another folder is later than what is known here. */
  public synchronized boolean isNews(JournalEntry fact) {
    JournalEntry known;
    if (fact instanceof JournalEntry.ProjectSet e) {
      known = projects.get(e.project().id());
    } else if (fact instanceof JournalEntry.DocumentSet e) {
      return !documents.containsKey(e.id());
    } else if (fact instanceof JournalEntry.Written e) {
      known = lastWritten.get(e.document());
    } else if (fact instanceof JournalEntry.Marked e) {
      known = marks.getOrDefault(e.document() + e.state(), Map.of()).get(e.mark());
    } else if (fact instanceof JournalEntry.IncidentSet e) {
      known = incidents.get(e.id());
    } else if (fact instanceof JournalEntry.Moment e) {
      known = moments.get(e.id());
    } else if (fact instanceof JournalEntry.SetTaken e) {
      known = sets.getOrDefault(e.document(), Map.of()).get(SetKey.of(e));
    } else if (fact instanceof JournalEntry.LinksSeen e) {
      known = links.getOrDefault(e.document(), Map.of()).get(e.state());
    } else if (fact instanceof JournalEntry.LayoutSet e) {
      known = layouts.get(e.project());
    } else if (fact instanceof JournalEntry.SettingsPut e) {
      known = settings.get(e.op());
    } else {
      return false;
    }
    return known == null || fact.at().isAfter(known.at());
  }

  /** Moments at which documents of a project were copied together. */
  public synchronized List<JournalEntry.Moment> moments(UUID project) {
    return moments.values().stream().filter(m -> m.project().equals(project)).toList();
  }

  public synchronized Set<String> marks(UUID document, String state) {
    return marks.getOrDefault(document + state, Map.of()).values().stream()
        .filter(JournalEntry.Marked::on)
        .map(JournalEntry.Marked::mark)
        .collect(Collectors.toUnmodifiableSet());
  }

  /** The highest birth number given so far, binned copies included; 0 if none. */
  public synchronized long lastSequence(UUID document) {
    return java.util.stream.Stream.concat(
            standing.values().stream(), binned.values().stream().map(Binned::capture))
        .filter(c -> c.document().equals(document))
        .mapToLong(BackupRecord::sequence)
        .max()
        .orElse(0);
  }

  /** A project's folder layout as text; empty if none was set. */
  public synchronized Optional<String> layout(UUID project) {
    return Optional.ofNullable(layouts.get(project)).map(JournalEntry.LayoutSet::text);
  }

  /** Corrections of a program's settings, oldest first. */
  public synchronized List<JournalEntry.SettingsPut> settingsPut(UUID project) {
    return settings.values().stream().filter(s -> s.project().equals(project)).toList();
  }

  /** Documents of a project of which a standing copy leans on a file, by their paths. */
  public synchronized List<String> leaningOn(UUID project, String path) {
    List<String> leaning = new ArrayList<>();
    for (JournalEntry.DocumentSet document : documents(project)) {
      boolean leans =
          captures(document.id()).stream()
              .anyMatch(
                  c ->
                      leansOn(document.id(), c.state()).stream()
                          .anyMatch(l -> l.path().equals(path)));
      if (leans) {
        leaning.add(document.path());
      }
    }
    return leaning;
  }

  /** What the states of a document leaned on when they were copied, by state. */
  public synchronized Map<String, List<JournalEntry.Leaned>> leansOn(UUID document) {
    return links.getOrDefault(document, Map.of()).entrySet().stream()
        .collect(Collectors.toMap(Map.Entry::getKey, e -> e.getValue().links()));
  }

  /** What a state leaned on when it was copied; empty if it leaned on nothing. */
  public synchronized List<JournalEntry.Leaned> leansOn(UUID document, String state) {
    JournalEntry.LinksSeen seen = links.getOrDefault(document, Map.of()).get(state);
    return seen == null ? List.of() : seen.links();
  }

  /** States of a linked file on which a state that still stands leans. */
  private Set<String> leanedOn(UUID linked) {
    JournalEntry.DocumentSet document = documents.get(linked);
    Set<String> leaned = new TreeSet<>();
    if (document == null || !document.linked()) {
      return leaned;
    }
    Set<String> stands = new HashSet<>();
    standing.values().forEach(c -> stands.add(c.document() + c.state()));
    for (Map<String, JournalEntry.LinksSeen> seen : links.values()) {
      for (JournalEntry.LinksSeen state : seen.values()) {
        if (stands.contains(state.document() + state.state())) {
          state.links().stream()
              .filter(l -> l.path().equals(document.path()) && l.content() != null)
              .forEach(l -> leaned.add(Manifest.ofFile(l.content()).digest()));
        }
      }
    }
    return leaned;
  }

  /** Steps of a run that were copied, in the order (run, step). */
  public synchronized List<SetRecord> sets(UUID document) {
    return sets.getOrDefault(document, Map.of()).values().stream()
        .map(JournalEntry.SetTaken::set)
        .sorted(Comparator.comparing(SetRecord::place))
        .toList();
  }

  /**
   * The copies no rule may drop: the newest that is whole, and all of the newest step that is.
   * Empty if nothing is whole.
   */
  public synchronized List<BackupRecord> protecting(UUID document) {
    List<BackupRecord> protecting = new ArrayList<>();
    captures(document).stream()
        .filter(c -> c.role() == null && c.protects())
        .max(Comparator.comparing(BackupRecord::workTo).thenComparing(BackupRecord::sequence))
        .ifPresent(protecting::add);
    keepSets(document).stream()
        .filter(KeepSet::whole)
        .reduce((older, newer) -> newer)
        .ifPresent(
            set ->
                captures(document).stream()
                    .filter(c -> c.state().equals(set.restart()) || c.state().equals(set.result()))
                    .forEach(protecting::add));
    return protecting;
  }

  /** Steps as keep rules see them, in the order (run, step). */
  public synchronized List<KeepSet> keepSets(UUID document) {
    Map<String, List<BackupRecord>> byUnit = new LinkedHashMap<>();
    captures(document)
        .forEach(c -> byUnit.computeIfAbsent(c.state(), k -> new ArrayList<>()).add(c));
    return sets(document).stream().map(set -> keepSet(document, set, byUnit)).toList();
  }

  private KeepSet keepSet(UUID document, SetRecord set, Map<String, List<BackupRecord>> byUnit) {
    Map<Role, String> units = new EnumMap<>(Role.class);
    boolean whole = set.settled() && set.lacks().isEmpty();
    boolean diverged = false;
    for (SetRecord.Member member : set.members()) {
      List<BackupRecord> copies = byUnit.getOrDefault(member.unit(), List.of());
      units.put(member.role(), member.unit());
      whole &= copies.stream().anyMatch(BackupRecord::protects);
      diverged |= copies.stream().anyMatch(c -> c.verdict() == Verdict.DOUBTFUL);
    }
    Set<String> reasons = new TreeSet<>(marks(document, set.state()));
    if (set.note() != null) {
      reasons.add("noted");
    }
    return new KeepSet(
        set.run(),
        set.step(),
        units.get(Role.SETUP),
        units.get(Role.RESTART),
        units.get(Role.RESULT),
        whole,
        diverged,
        reasons);
  }

  /** States as keep rules see them. */
  public synchronized List<KeepState> keepStates(UUID document) {
    Map<String, List<BackupRecord>> byState = new LinkedHashMap<>();
    captures(document)
        .forEach(c -> byState.computeIfAbsent(c.state(), k -> new ArrayList<>()).add(c));
    List<KeepState> states = new ArrayList<>();
    Set<String> leaned = leanedOn(document);
    byState.forEach(
        (state, copies) ->
            states.add(
                new KeepState(
                    state,
                    copies.stream().mapToLong(BackupRecord::sequence).max().orElse(0),
                    copies.get(0).workTo(),
                    copies.stream().mapToLong(c -> c.content().length()).sum(),
                    copies.stream().anyMatch(BackupRecord::protects),
                    reasons(document, state, copies, leaned.contains(state)))));
    return states;
  }

  /** Sudden losses of a document that were asked about, answered ones too, as they stand now. */
  public synchronized List<JournalEntry.LossAsked> losses(UUID document) {
    return List.copyOf(losses.getOrDefault(document, Map.of()).values());
  }

  private Set<String> reasons(
      UUID document, String state, List<BackupRecord> copies, boolean leaned) {
    Set<String> reasons = new TreeSet<>(marks(document, state));
    if (losses(document).stream().anyMatch(l -> l.isOpen() && l.before().equals(state))) {
      reasons.add("before a loss nobody has answered for");
    }
    if (leaned) {
      reasons.add("a kept state leans on it");
    }
    if (copies.stream().anyMatch(c -> c.note() != null)) {
      reasons.add("noted");
    }
    if (copies.stream().anyMatch(c -> c.kind() == dev.kavrin.core.profile.CopyKind.SECURED)) {
      reasons.add("secured after a crash");
    }
    return reasons;
  }
}
