package dev.kavrin.core.journal;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.keep.KeepSet;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.version.Manifest;
import dev.kavrin.core.version.SetRule.Role;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/** A folder's backups of one document, as keep rules see them. */
public final class KeepInputs {
  private final History history;
  private final UUID document;

  public KeepInputs(History history, UUID document) {
    this.history = history;
    this.document = document;
  }

  /** When incidents of the document were noticed. */
  public List<Instant> incidents() {
    return history.incidents().stream()
        .filter(i -> i.documents().contains(document))
        .map(JournalEntry.IncidentSet::to)
        .toList();
  }

  /**
   * The backups no rule may drop: the newest that is whole, the newest of those that are no copies
   * of what a program wrote aside, and all of the newest step that is whole. Empty if nothing is
   * whole.
   */
  public List<BackupRecord> protecting() {
    List<BackupRecord> backups = history.captures(document);
    List<BackupRecord> protecting = new ArrayList<>();
    WorkOrder order = WorkOrder.of(history, document, backups);
    List<BackupRecord> plain = backups.stream().filter(c -> c.role() == null).toList();
    newestWhole(order, plain).ifPresent(protecting::add);
    newestWhole(order, plain.stream().filter(b -> b.kind() != CopyKind.AS_WRITTEN).toList())
        .filter(b -> !protecting.contains(b))
        .ifPresent(protecting::add);
    sets().stream()
        .filter(KeepSet::whole)
        .reduce((older, newer) -> newer)
        .ifPresent(
            set -> backups.stream().filter(c -> set.isOfStep(c.state())).forEach(protecting::add));
    return protecting;
  }

  private static Optional<BackupRecord> newestWhole(WorkOrder order, List<BackupRecord> backups) {
    return backups.stream()
        .filter(protectsBy(order, backups))
        .max(
            Comparator.comparing((BackupRecord b) -> order.of(b))
                .thenComparing(BackupRecord::sequence));
  }

  /** Kept as a program wrote them, of which a backup for longer stands as well, whole. */
  public List<BackupRecord> superseded() {
    return byState().values().stream()
        .filter(
            copies ->
                copies.stream().anyMatch(b -> b.kind() != CopyKind.AS_WRITTEN && b.protects()))
        .flatMap(copies -> copies.stream().filter(b -> b.kind() == CopyKind.AS_WRITTEN))
        .toList();
  }

  /** Whole ones; those nobody can place among others only where there is no other. */
  private static Predicate<BackupRecord> protectsBy(WorkOrder order, List<BackupRecord> backups) {
    Predicate<BackupRecord> whole = BackupRecord::protects;
    Predicate<BackupRecord> placed = whole.and(b -> !order.guesses().contains(b.state()));
    return backups.stream().anyMatch(placed) ? placed : whole;
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
    boolean whole = set.settled() && set.lacks().isEmpty();
    boolean diverged = false;
    for (SetRecord.Member member : set.members()) {
      List<BackupRecord> copies = byUnit.getOrDefault(member.unit(), List.of());
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
        units(set, Role.SETUP).stream().findFirst().orElse(null),
        units(set, Role.RESTART),
        units(set, Role.RESULT),
        whole,
        diverged,
        reasons);
  }

  private static List<String> units(SetRecord set, Role role) {
    return set.members(role).stream().map(SetRecord.Member::unit).toList();
  }

  /** Versions. */
  public List<KeepState> states() {
    List<KeepState> states = new ArrayList<>();
    Set<String> used = used();
    List<BackupRecord> backups = history.captures(document);
    WorkOrder order = WorkOrder.of(history, document, backups);
    Predicate<BackupRecord> protects = protectsBy(order, backups);
    byState()
        .forEach(
            (state, copies) ->
                states.add(
                    new KeepState(
                        state,
                        copies.stream().mapToLong(BackupRecord::sequence).max().orElse(0),
                        order.of(copies.get(0)),
                        copies.stream().mapToLong(history::stored).sum(),
                        copies.stream().anyMatch(protects),
                        reasons(state, copies, used.contains(state)),
                        copies.stream().allMatch(c -> c.kind() == CopyKind.AS_WRITTEN))));
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
      reasons.add("a kept version uses it");
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
