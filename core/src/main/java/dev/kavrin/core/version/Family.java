package dev.kavrin.core.version;

import dev.kavrin.core.units.Span;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Copies that one program numbered: what their numbers say of their order.
 *
 * @param name as people would call it: folder and pattern
 * @param members with their numbers, in any order; no number twice, a state as often as it stands
 * @param padded true if the numbers are written with leading zeros, as rising ones are
 */
public record Family(String name, List<Member> members, boolean padded) {
  private static final Duration AT_ONCE = Duration.ofSeconds(2);

  /** A state with the number its copy bears. */
  public record Member(String state, long number) {}

  /** How the numbers run. */
  public enum Shape {
    RISING,
    /** The newest bears the lowest number, and all move up. */
    FALLING,
    /** Slots written over in turn: only the cyclic order is certain. */
    RING,
    /** Nothing tells. */
    UNKNOWN
  }

  /**
   * @param order oldest first
   */
  record Order(Shape shape, List<Member> order) {}

  /** When a member's work was done, as far as anything but its number tells. */
  interface Times {
    Span of(String state);

    /** False if its time was lost, as when it was copied. */
    boolean isReliable(String state);
  }

  /**
   * The order that the numbers tell, with the help of the times: rising unless the times say
   * otherwise, a ring cut at its largest step backward.
   */
  Order order(Times times) {
    Order all = ofAll(times);
    return new Order(all.shape(), newestOfEach(all.order()));
  }

  /** A state that stands under several numbers is as new as the newest of them. */
  private static List<Member> newestOfEach(List<Member> order) {
    Map<String, Member> newest = new LinkedHashMap<>();
    for (Member member : order) {
      newest.remove(member.state());
      newest.put(member.state(), member);
    }
    return List.copyOf(newest.values());
  }

  private Order ofAll(Times times) {
    List<Member> rising =
        members.stream().sorted(Comparator.comparingLong(Member::number)).toList();
    if (rising.size() < 2) {
      return new Order(Shape.RISING, rising);
    }
    if (areReset(rising, times)) {
      boolean tells = padded || rising.get(0).number() > 1 || !isUnbroken(rising);
      return new Order(tells ? Shape.RISING : Shape.UNKNOWN, rising);
    }
    List<Member> falling = new ArrayList<>(rising);
    Collections.reverse(falling);
    List<Member> cut = cut(rising, times);
    int up = fitting(rising, times);
    int down = fitting(falling, times);
    int round = isUnbroken(rising) && !padded ? fitting(cut, times) : 0;
    if (up >= down && up >= round) {
      return new Order(Shape.RISING, rising);
    }
    return down > round || down == round && rising.size() == 2
        ? new Order(Shape.FALLING, falling)
        : new Order(Shape.RING, cut);
  }

  private static boolean isUnbroken(List<Member> rising) {
    long first = rising.get(0).number();
    long last = rising.get(rising.size() - 1).number();
    return first <= 1 && last - first + 1 == rising.size();
  }

  /** All times lie at once, or at most one of them is reliable, so none tells anything. */
  private static boolean areReset(List<Member> rising, Times times) {
    if (rising.stream().filter(m -> times.isReliable(m.state())).count() < 2) {
      return true;
    }
    Instant lo = null;
    Instant hi = null;
    for (Member m : rising) {
      Instant at = times.of(m.state()).lo();
      lo = lo == null || at.isBefore(lo) ? at : lo;
      hi = hi == null || at.isAfter(hi) ? at : hi;
    }
    return Duration.between(lo, hi).compareTo(AT_ONCE.multipliedBy(rising.size())) <= 0;
  }

  private static List<Member> cut(List<Member> rising, Times times) {
    int at = 0;
    Duration largest = Duration.ZERO;
    for (int i = 0; i + 1 < rising.size(); i++) {
      if (!times.isReliable(rising.get(i).state())
          || !times.isReliable(rising.get(i + 1).state())) {
        continue;
      }
      Duration back =
          Duration.between(
              times.of(rising.get(i + 1).state()).lo(), times.of(rising.get(i).state()).lo());
      if (back.compareTo(largest) > 0) {
        largest = back;
        at = i + 1;
      }
    }
    List<Member> order = new ArrayList<>(rising.subList(at, rising.size()));
    order.addAll(rising.subList(0, at));
    return order;
  }

  /** How many members can stay where the order puts them without going back in time. */
  private static int fitting(List<Member> order, Times times) {
    return HeaviestSubsequence.rising(
            order.stream()
                .filter(m -> times.isReliable(m.state()))
                .map(m -> times.of(m.state()))
                .toList(),
            i -> 1)
        .size();
  }
}
