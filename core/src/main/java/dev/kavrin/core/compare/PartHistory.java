package dev.kavrin.core.compare;

import dev.kavrin.core.compare.PartMatcher.Match;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/**
 * The life of every part over all states of a document: when it came, changed, went and came back.
 * A renamed part, or one that came to belong elsewhere, stays the same part.
 */
public final class PartHistory {
  /**
   * One state.
   *
   * @param work when its work was done
   * @param inventory what was read of it, null if nothing could be
   * @param whole false if more may be in it than was read: what is missing then is not gone
   */
  public record Sighting(String state, Instant work, @Nullable Inventory inventory, boolean whole) {
    /** True if nothing of it was read. */
    public boolean isGap() {
      return inventory == null || !whole && inventory.parts().isEmpty();
    }
  }

  private final List<Sighting> sightings;
  private final List<PartLife> lives = new ArrayList<>();
  private Map<Part, PartLife> current = new IdentityHashMap<>();
  private List<Part> before = List.of();

  private PartHistory(List<Sighting> sightings) {
    this.sightings = List.copyOf(sightings);
  }

  /**
   * Follows every part. States that hold the same {@link Part} objects are the quickest; never
   * quadratic in the number of parts.
   *
   * @param sightings oldest work first
   */
  public static PartHistory of(List<Sighting> sightings) {
    PartHistory history = new PartHistory(sightings);
    for (int at = 0; at < sightings.size(); at++) {
      if (!sightings.get(at).isGap()) {
        history.look(at, parts(sightings.get(at).inventory()), sightings.get(at).whole());
      }
    }
    return history;
  }

  /** The parts of an inventory, and the files it names as parts of a kind of their own. */
  private static List<Part> parts(Inventory inventory) {
    if (inventory.links().isEmpty()) {
      return inventory.parts();
    }
    List<Part> parts = new ArrayList<>(inventory.parts());
    for (Link link : inventory.links()) {
      if (link.namesFile()) {
        parts.add(
            Part.of("named/" + link.uri(), null, link.uri(), "named file", Map.of(), link.uri()));
      }
    }
    return parts;
  }

  private void look(int at, List<Part> parts, boolean whole) {
    if (isAsBefore(parts)) {
      lives.forEach(life -> life.seenIfThere(at));
      return;
    }
    Map<Part, PartLife> next = new IdentityHashMap<>();
    List<Part> goneOrOther = new ArrayList<>();
    List<Part> newOrOther = new ArrayList<>();
    part(parts, next, goneOrOther, newOrOther, at);
    List<Part> unknown = new ArrayList<>();
    List<PartLife> absent = new ArrayList<>();
    List<Match> changed = new ArrayList<>();
    for (Match m : PartMatcher.match(inventory(goneOrOther), inventory(newOrOther))) {
      if (m.a() == null) {
        unknown.add(m.b());
      } else if (m.b() == null) {
        absent.add(current.get(m.a()));
      } else {
        PartLife life = current.get(m.a());
        next.put(m.b(), life);
        changed.add(m);
      }
    }
    groups(changed, unknown, absent, next, at);
    Map<Part, PartLife> back = returned(unknown);
    for (Part part : unknown) {
      PartLife life = back.get(part);
      if (life == null) {
        life = new PartLife(lives.size(), part, at);
        lives.add(life);
      }
      next.put(part, life);
    }
    for (Match m : changed) {
      PartLife life = current.get(m.a());
      life.seen(at, m.b(), sameParent(m.a(), m.b(), next));
    }
    back.forEach((part, life) -> life.back(at, part));
    absent.forEach(life -> keepOrLose(life, at, whole, next));
    current = next;
    before = parts;
  }

  /** A group that is called otherwise is told by what is in it: most of it must have come along. */
  private void groups(
      List<Match> changed,
      List<Part> unknown,
      List<PartLife> absent,
      Map<Part, PartLife> next,
      int at) {
    if (absent.isEmpty() || unknown.isEmpty()) {
      return;
    }
    Map<String, Map<String, Integer>> moved = new HashMap<>();
    for (Match m : changed) {
      if (m.a().parent() != null && m.b().parent() != null) {
        moved
            .computeIfAbsent(m.a().parent(), k -> new HashMap<>())
            .merge(m.b().parent(), 1, Integer::sum);
      }
    }
    for (PartLife life : List.copyOf(absent)) {
      Map<String, Integer> to = moved.getOrDefault(life.last().id(), Map.of());
      int all = to.values().stream().mapToInt(Integer::intValue).sum();
      unknown.stream()
          .filter(p -> p.kind().equals(life.kind()) && to.getOrDefault(p.id(), 0) * 2 > all)
          .findFirst()
          .ifPresent(
              p -> {
                unknown.remove(p);
                absent.remove(life);
                next.put(p, life);
                life.seen(at, p, true);
              });
    }
  }

  /** Whether what a part belongs to is what it belonged to, whatever that is called now. */
  private static boolean sameParent(Part a, Part b, Map<Part, PartLife> next) {
    if (a.parent() == null || b.parent() == null || a.parent().equals(b.parent())) {
      return Objects.equals(a.parent(), b.parent());
    }
    return next.entrySet().stream()
        .filter(e -> e.getKey().id().equals(b.parent()))
        .anyMatch(e -> e.getValue().wasCalled(a.parent()));
  }

  private static void keepOrLose(PartLife life, int at, boolean whole, Map<Part, PartLife> next) {
    if (whole) {
      life.lost(at);
    } else {
      next.put(life.last(), life);
    }
  }

  private boolean isAsBefore(List<Part> parts) {
    if (parts.size() != before.size() || current.size() != parts.size()) {
      return false;
    }
    for (int i = 0; i < parts.size(); i++) {
      if (parts.get(i) != before.get(i)) {
        return false;
      }
    }
    return true;
  }

  /** What is the very same goes on; the rest is left to be matched. */
  private void part(
      List<Part> parts,
      Map<Part, PartLife> next,
      List<Part> goneOrOther,
      List<Part> newOrOther,
      int at) {
    for (Part part : parts) {
      PartLife life = current.get(part);
      if (life == null) {
        newOrOther.add(part);
      } else {
        life.seenIfThere(at);
        next.put(part, life);
      }
    }
    current.keySet().stream()
        .filter(p -> !next.containsKey(p))
        .sorted(Comparator.comparing(Part::id))
        .forEach(goneOrOther::add);
  }

  /** New parts that were there before: under the same path, or the only ones with their content. */
  private Map<Part, PartLife> returned(List<Part> unknown) {
    Map<Part, PartLife> back = new LinkedHashMap<>();
    if (unknown.isEmpty()) {
      return back;
    }
    Map<String, Part> asleep = new LinkedHashMap<>();
    Map<Part, PartLife> lifeOf = new IdentityHashMap<>();
    for (PartLife life : lives) {
      if (!life.isThere()) {
        asleep.put(life.last().id(), life.last());
        lifeOf.put(life.last(), life);
      }
    }
    for (Match m :
        PartMatcher.sameOnes(inventory(List.copyOf(asleep.values())), inventory(unknown))) {
      back.put(m.b(), lifeOf.get(m.a()));
    }
    return back;
  }

  private static Inventory inventory(List<Part> parts) {
    return Inventory.of("history", parts, List.of());
  }

  public List<Sighting> sightings() {
    return sightings;
  }

  /** Every part there ever was, in the order they came. */
  public List<PartLife> lives() {
    return lives;
  }

  /** The newest state that could be read, or −1. */
  public int newest() {
    for (int at = sightings.size() - 1; at >= 0; at--) {
      if (!sightings.get(at).isGap()) {
        return at;
      }
    }
    return -1;
  }

  /** The newest state whose work was done by then, or −1. */
  public int asOf(Instant moment) {
    for (int at = sightings.size() - 1; at >= 0; at--) {
      if (!sightings.get(at).work().isAfter(moment) && !sightings.get(at).isGap()) {
        return at;
      }
    }
    return -1;
  }

  /**
   * What stood there at a state or after it and does not any more, the largest first.
   *
   * @param since index of that state
   */
  public List<PartLife> gone(int since) {
    return lives.stream()
        .filter(l -> !l.isThere() && l.lastSeen() >= since && !l.kind().equals("group"))
        .sorted(Comparator.comparingDouble(PartHistory::weight).reversed())
        .toList();
  }

  /** How much of a part there was, by what parts of its kind are measured by. */
  public static double weight(PartLife life) {
    for (String measure : List.of("extent", "entities", "count", "size", "faces")) {
      Measure found = life.last().measures().get(measure);
      if (found != null && Double.isFinite(found.value())) {
        return found.value();
      }
    }
    return 0;
  }
}
