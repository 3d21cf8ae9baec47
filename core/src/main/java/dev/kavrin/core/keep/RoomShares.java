package dev.kavrin.core.keep;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What goes of several documents that share room, so that what is kept of all fits into it. */
public final class RoomShares {
  private RoomShares() {}

  /**
   * One document.
   *
   * @param states its versions
   * @param kept what its own rule keeps of them, reason by id
   */
  public record Share(List<KeepState> states, Map<String, String> kept) {}

  /** One of which everything that stands is kept. */
  public static Share allOf(List<KeepState> standing) {
    Map<String, String> kept = new HashMap<>();
    standing.forEach(s -> kept.put(s.id(), ""));
    return new Share(standing, kept);
  }

  /**
   * @param bytes room for all that is kept
   * @return ids of those that go, for each share; fewer than would be needed where the rest must
   *     stay
   */
  public static List<Set<String>> beyond(List<Share> shares, long bytes) {
    List<List<KeepState>> counted =
        shares.stream().map(s -> RoomLimit.counted(s.states(), s.kept())).toList();
    long all = counted.stream().flatMap(List::stream).mapToLong(KeepState::bytes).sum();
    return new Thinning(counted).until(all - bytes);
  }
}
