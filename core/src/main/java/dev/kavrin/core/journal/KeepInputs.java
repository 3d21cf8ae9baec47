package dev.kavrin.core.journal;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.keep.KeepSet;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.version.Manifest;
import dev.kavrin.core.version.SetRule.Role;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;

/** A folder's backups of one document, as keep rules see them. */
public final class KeepInputs {
  private final History history;
  private final UUID document;

  public KeepInputs(History history, UUID document) {
    this.history = history;
    this.document = document;
  }

  /**
   * The backups no rule may drop: the newest that is whole, and all of the newest step that is.
   * Empty if nothing is whole.
   */
  public List<BackupRecord> protecting() {
    List<BackupRecord> backups = history.captures(document);
    List<BackupRecord> protecting = new ArrayList<>();
    backups.stream()
        .filter(c -> c.role() == null && c.protects())
        .max(Comparator.comparing(BackupRecord::workTo).thenComparing(BackupRecord::sequence))
        .ifPresent(protecting::add);
    sets().stream()
        .filter(KeepSet::whole)
        .reduce((older, newer) -> newer)
        .ifPresent(
            set ->
                backups.stream()
                    .filter(c -> c.state().equals(set.restart()) || c.state().equals(set.result()))
                    .forEach(protecting::add));
    return protecting;
  }

  private Map<String, List<BackupRecord>> byState() {
    Map<String, List<BackupRecord>> byState = new LinkedHashMap<>();
    history
        .captures(document)
        .forEach(c -> byState.computeIfAbsent(c.state(), k -> new ArrayList<>()).add(c));
    return byState;
  }

  /** Steps, in the order (run, step). */
  public List<KeepSet> sets() {
    Map<String, List<BackupRecord>> byUnit = byState();
    return history.sets(document).stream().map(set -> keepSet(set, byUnit)).toList();
  }

  private KeepSet keepSet(SetRecord set, Map<String, List<BackupRecord>> byUnit) {
    Map<Role, String> units = new EnumMap<>(Role.class);
    boolean whole = set.settled() && set.lacks().isEmpty();
    boolean diverged = false;
    for (SetRecord.Member member : set.members()) {
      List<BackupRecord> copies = byUnit.getOrDefault(member.unit(), List.of());
      units.put(member.role(), member.unit());
      whole &= copies.stream().anyMatch(BackupRecord::protects);
      diverged |= copies.stream().anyMatch(c -> c.verdict() == Verdict.DOUBTFUL);
    }
    Set<String> reasons = new TreeSet<>(history.marks(document, set.state()));
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

  /** Versions. */
  public List<KeepState> states() {
    List<KeepState> states = new ArrayList<>();
    Set<String> used = used();
    byState()
        .forEach(
            (state, copies) ->
                states.add(
                    new KeepState(
                        state,
                        copies.stream().mapToLong(BackupRecord::sequence).max().orElse(0),
                        copies.get(0).workTo(),
                        copies.stream().mapToLong(c -> c.content().length()).sum(),
                        copies.stream().anyMatch(BackupRecord::protects),
                        reasons(state, copies, used.contains(state)))));
    return states;
  }

  /** Versions of this linked file that a version which still stands uses. */
  private Set<String> used() {
    Set<String> used = new TreeSet<>();
    Map<UUID, Set<String>> standing = new HashMap<>();
    history
        .document(document)
        .filter(JournalEntry.DocumentSet::linked)
        .ifPresent(
            linked ->
                history.allLinks().stream()
                    .filter(seen -> stands(seen, standing))
                    .flatMap(seen -> seen.links().stream())
                    .filter(l -> l.path().equals(linked.path()) && l.content() != null)
                    .forEach(l -> used.add(Manifest.ofFile(l.content()).digest())));
    return used;
  }

  private boolean stands(JournalEntry.LinksSeen seen, Map<UUID, Set<String>> standing) {
    return standing
        .computeIfAbsent(
            seen.document(),
            id ->
                history.captures(id).stream().map(BackupRecord::state).collect(Collectors.toSet()))
        .contains(seen.state());
  }

  private Set<String> reasons(String state, List<BackupRecord> copies, boolean used) {
    Set<String> reasons = new TreeSet<>(history.marks(document, state));
    if (history.losses(document).stream().anyMatch(l -> l.isOpen() && l.before().equals(state))) {
      reasons.add("before a loss nobody has answered for");
    }
    if (used) {
      reasons.add("a kept state leans on it");
    }
    if (copies.stream().anyMatch(c -> c.note() != null)) {
      reasons.add("noted");
    }
    if (copies.stream().anyMatch(c -> c.kind() == CopyKind.SECURED)) {
      reasons.add("secured after a crash");
    }
    return reasons;
  }
}
