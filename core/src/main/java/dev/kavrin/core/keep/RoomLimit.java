package dev.kavrin.core.keep;

import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Keeps what another rule keeps, as far as the room goes. What goes next is the state whose loss
 * opens the smallest gap in the work, the oldest among equals. The newest whole state, the newest
 * whole one that a person saved, the newest of all and whatever carries a mark stay, even past the
 * limit.
 *
 * @param bytes room for all that is kept
 */
record RoomLimit(KeepRule rule, long bytes) implements KeepRule {
  private static final Comparator<KeepState> BY_WORK =
      Comparator.comparing(KeepState::workTime).thenComparing(KeepState::birth);

  @Override
  public Map<String, String> keeps(List<KeepState> states) {
    Map<String, String> kept = rule.keeps(states);
    Set<KeepState> whole = newestWhole(states);
    KeepState[] ordered =
        states.stream()
            .filter(s -> kept.containsKey(s.id()) || whole.contains(s))
            .sorted(BY_WORK)
            .toArray(KeepState[]::new);
    long over = -bytes;
    for (KeepState state : ordered) {
      over += state.bytes();
    }
    if (over > 0) {
      new Thinning(ordered, whole).until(over, kept);
    }
    return kept;
  }

  /** Of all, and of those that a person saved. */
  private static Set<KeepState> newestWhole(List<KeepState> states) {
    List<KeepState> whole = states.stream().filter(KeepState::protecting).toList();
    return Stream.concat(
            whole.stream().max(BY_WORK).stream(),
            whole.stream().filter(s -> !s.asWritten()).max(BY_WORK).stream())
        .collect(Collectors.toSet());
  }

  /** The kept states as a chain in the order of the work, from which one after another is taken. */
  private static final class Thinning {
    private final KeepState[] states;
    private final long[] millis;
    private final int[] older;
    private final int[] newer;
    private final boolean[] mayGo;
    private final PriorityQueue<Gap> next = new PriorityQueue<>();

    Thinning(KeepState[] states, Set<KeepState> whole) {
      int count = states.length;
      this.states = states;
      this.millis = new long[count];
      this.older = new int[count];
      this.newer = new int[count];
      this.mayGo = new boolean[count];
      for (int i = 0; i < count; i++) {
        millis[i] = states[i].workTime().toEpochMilli();
        older[i] = i - 1;
        newer[i] = i + 1;
        mayGo[i] = i + 1 < count && !whole.contains(states[i]) && states[i].marks().isEmpty();
      }
      for (int i = 0; i < count; i++) {
        offer(i);
      }
    }

    /** What the loss of a state opens, in milliseconds; the oldest first among equals. */
    private record Gap(long millis, int state) implements Comparable<Gap> {
      @Override
      public int compareTo(Gap other) {
        int byGap = Long.compare(millis, other.millis);
        return byGap != 0 ? byGap : Integer.compare(state, other.state);
      }
    }

    private long gap(int i) {
      return millis[newer[i]] - millis[older[i] < 0 ? i : older[i]];
    }

    private void offer(int i) {
      if (i >= 0 && i < states.length && mayGo[i]) {
        next.add(new Gap(gap(i), i));
      }
    }

    /** Entries whose gap grew since, or that are gone, are passed over. */
    void until(long bytes, Map<String, String> kept) {
      long left = bytes;
      while (left > 0 && !next.isEmpty()) {
        Gap smallest = next.poll();
        int i = smallest.state();
        if (mayGo[i] && gap(i) == smallest.millis()) {
          kept.remove(states[i].id());
          left -= states[i].bytes();
          unlink(i);
        }
      }
    }

    private void unlink(int i) {
      mayGo[i] = false;
      if (older[i] >= 0) {
        newer[older[i]] = newer[i];
      }
      older[newer[i]] = older[i];
      offer(older[i]);
      offer(newer[i]);
    }
  }
}
