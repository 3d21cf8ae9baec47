package dev.kavrin.core.keep;

import java.time.Duration;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/**
 * Keeps what another rule keeps, as far as the room goes. What goes next is the state whose loss
 * opens the smallest gap in the work, the oldest among equals. The newest whole state, the newest
 * of all and whatever carries a mark stay, even past the limit.
 *
 * @param bytes room for all that is kept
 */
record RoomLimit(KeepRule rule, long bytes) implements KeepRule {

  /** A kept state between its neighbours in the order of the work. */
  private static final class Link {
    private final KeepState state;
    private Link older;
    private Link newer;
    private boolean mayGo;
    private long gap;

    Link(KeepState state) {
      this.state = state;
    }

    /** Milliseconds between the neighbours. */
    private long gap() {
      Link from = older == null ? this : older;
      return Duration.between(from.state.workTime(), newer.state.workTime()).toMillis();
    }
  }

  private static final Comparator<KeepState> BY_WORK =
      Comparator.comparing(KeepState::workTime).thenComparing(KeepState::birth);

  private static final Comparator<Link> NEXT_TO_GO =
      Comparator.<Link>comparingLong(l -> l.gap).thenComparing(l -> l.state, BY_WORK);

  @Override
  public Map<String, String> keeps(List<KeepState> states) {
    Map<String, String> kept = new HashMap<>(rule.keeps(states));
    KeepState whole = states.stream().filter(KeepState::protecting).max(BY_WORK).orElse(null);
    List<KeepState> ordered =
        states.stream()
            .filter(s -> kept.containsKey(s.id()) || s == whole)
            .sorted(BY_WORK)
            .toList();
    long used = ordered.stream().mapToLong(KeepState::bytes).sum();
    TreeSet<Link> candidates = chain(ordered, whole);
    while (used > bytes && !candidates.isEmpty()) {
      Link gone = candidates.pollFirst();
      kept.remove(gone.state.id());
      used -= gone.state.bytes();
      unlink(gone, candidates);
    }
    return kept;
  }

  private static TreeSet<Link> chain(List<KeepState> ordered, KeepState whole) {
    List<Link> links = ordered.stream().map(Link::new).toList();
    for (int i = 1; i < links.size(); i++) {
      links.get(i).older = links.get(i - 1);
      links.get(i - 1).newer = links.get(i);
    }
    TreeSet<Link> candidates = new TreeSet<>(NEXT_TO_GO);
    for (Link link : links) {
      if (link.newer != null && link.state != whole && link.state.marks().isEmpty()) {
        link.mayGo = true;
        link.gap = link.gap();
        candidates.add(link);
      }
    }
    return candidates;
  }

  private static void unlink(Link gone, TreeSet<Link> candidates) {
    join(gone.older, gone.older, gone.newer, candidates);
    join(gone.newer, gone.older, gone.newer, candidates);
  }

  /** Gives {@code link} its new neighbour and, if it may go, its new place in the line. */
  private static void join(Link link, Link older, Link newer, TreeSet<Link> candidates) {
    if (link == null) {
      return;
    }
    if (link.mayGo) {
      candidates.remove(link);
    }
    if (link == older) {
      link.newer = newer;
    } else {
      link.older = older;
    }
    if (link.mayGo) {
      link.gap = link.gap();
      candidates.add(link);
    }
  }
}
