package dev.kavrin.core.keep;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * The versions of one or more documents, each document's a chain in the order of the work, from
 * which one after another is taken: next the one whose loss opens the smallest gap in its chain,
 * the oldest among equals. The newest whole version of each, the newest whole one that a person
 * saved, the newest of all and whatever carries a mark stay.
 */
final class Thinning {
  private static final Comparator<KeepState> BY_WORK =
      Comparator.comparing(KeepState::workTime).thenComparing(KeepState::birth);

  private final KeepState[] states;
  private final int[] chain;
  private final long[] millis;
  private final int[] older;
  private final int[] newer;
  private final boolean[] mayGo;
  private final PriorityQueue<Gap> next = new PriorityQueue<>();
  private final List<Set<String>> gone = new ArrayList<>();

  /**
   * @param documents of each what counts
   */
  Thinning(List<List<KeepState>> documents) {
    int count = documents.stream().mapToInt(List::size).sum();
    this.states = new KeepState[count];
    this.chain = new int[count];
    this.millis = new long[count];
    this.older = new int[count];
    this.newer = new int[count];
    this.mayGo = new boolean[count];
    int at = 0;
    for (List<KeepState> document : documents) {
      gone.add(new HashSet<>());
      at = link(document, at);
    }
    for (int i = 0; i < count; i++) {
      offer(i);
    }
  }

  private int link(List<KeepState> document, int from) {
    Set<KeepState> whole = newestWhole(document);
    int to = from + document.size();
    int at = from;
    for (KeepState state : document.stream().sorted(BY_WORK).toList()) {
      states[at] = state;
      chain[at] = gone.size() - 1;
      millis[at] = state.workTime().toEpochMilli();
      older[at] = at == from ? -1 : at - 1;
      newer[at] = at + 1;
      mayGo[at] = at + 1 < to && !whole.contains(state) && state.marks().isEmpty();
      at++;
    }
    return to;
  }

  /** Of all, and of those that a person saved. */
  static Set<KeepState> newestWhole(List<KeepState> states) {
    List<KeepState> whole = states.stream().filter(KeepState::protecting).toList();
    return Stream.concat(
            whole.stream().max(BY_WORK).stream(),
            whole.stream().filter(s -> !s.asWritten()).max(BY_WORK).stream())
        .collect(Collectors.toSet());
  }

  /** What the loss of a state opens, in milliseconds; the oldest first among equals. */
  private record Gap(long millis, long work, int state) implements Comparable<Gap> {
    private static final Comparator<Gap> ORDER =
        Comparator.comparingLong(Gap::millis)
            .thenComparingLong(Gap::work)
            .thenComparingInt(Gap::state);

    @Override
    public int compareTo(Gap other) {
      return ORDER.compare(this, other);
    }
  }

  private long gap(int i) {
    return millis[newer[i]] - millis[older[i] < 0 ? i : older[i]];
  }

  private void offer(int i) {
    if (i >= 0 && i < states.length && mayGo[i]) {
      next.add(new Gap(gap(i), millis[i], i));
    }
  }

  /**
   * Takes until that many bytes are gone, or nothing more may go. Entries whose gap grew since, or
   * that are gone, are passed over.
   *
   * @return ids of those that go, for each document
   */
  List<Set<String>> until(long bytes) {
    long left = bytes;
    while (left > 0 && !next.isEmpty()) {
      Gap smallest = next.poll();
      int i = smallest.state();
      if (mayGo[i] && gap(i) == smallest.millis()) {
        gone.get(chain[i]).add(states[i].id());
        left -= states[i].bytes();
        unlink(i);
      }
    }
    return gone;
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
