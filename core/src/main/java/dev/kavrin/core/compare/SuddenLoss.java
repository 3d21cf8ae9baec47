package dev.kavrin.core.compare;

import dev.kavrin.core.compare.PartMatcher.Match;
import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.units.Words;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;

/**
 * What a save took away that hardly anybody takes away on purpose. Parts that were split, joined,
 * made lighter, renamed or moved are not lost: something still fills their place.
 */
public final class SuddenLoss {
  /** Values that are no numbers or beyond all bounds. */
  private static final Set<String> DIVERGED = Set.of("not-a-number", "runaway");

  private static final double STILL_THERE = 0.5;
  private static final double LIKE_BEFORE = 0.5;
  private static final int FEWEST = 2;

  private final Inventory before;
  private final Inventory after;
  private final LossLimits limits;
  private final List<Loss> losses = new ArrayList<>();

  private SuddenLoss(Inventory before, Inventory after, LossLimits limits) {
    this.before = before;
    this.after = after;
    this.limits = limits;
  }

  /**
   * @param words "18 of 46 parts went"
   * @param parts ids of what went, in the state before, the largest first
   */
  public record Loss(String words, List<String> parts) {}

  /**
   * @param before what was read of the state before
   * @param worse findings of the state after that the one before did not have
   * @return empty if nothing is to be asked
   */
  public static List<Loss> of(
      Inventory before, Inventory after, List<Finding> worse, LossLimits limits) {
    if (!limits.asks() || !before.format().equals(after.format())) {
      return List.of();
    }
    SuddenLoss loss = new SuddenLoss(before, after, limits);
    loss.find();
    worse.stream()
        .filter(f -> DIVERGED.contains(f.code()))
        .findFirst()
        .ifPresent(f -> loss.losses.add(new Loss(f.words(), List.of())));
    return loss.losses;
  }

  private void find() {
    List<Match> matches = PartMatcher.match(before, after);
    List<Part> gone = new ArrayList<>();
    List<Part> added = new ArrayList<>();
    List<Part> turned = new ArrayList<>();
    for (Match m : matches) {
      if (m.b() == null && m.a().isCounted()) {
        gone.add(m.a());
      } else if (m.a() == null && m.b().isCounted()) {
        added.add(m.b());
      } else if (m.a() != null && m.b() != null && turnedWrong(m)) {
        turned.add(m.a());
      }
    }
    Map<String, List<Part>> lost =
        gone.stream()
            .filter(p -> !isFilled(p, added))
            .sorted(Comparator.comparingDouble(SuddenLoss::size).reversed())
            .collect(Collectors.groupingBy(Part::kind, TreeMap::new, Collectors.toList()));
    lost.forEach(this::parts);
    layers(matches);
    if (!turned.isEmpty()) {
      losses.add(
          new Loss(Words.count(turned.size(), "surface") + " turned inside out", ids(turned)));
    }
    pictures();
  }

  private void parts(String kind, List<Part> lost) {
    if (kind.equals("field")) {
      losses.add(
          new Loss(
              Words.count(lost.size(), "field") + " no longer written: " + names(lost), ids(lost)));
      return;
    }
    if (kind.equals("layer")) {
      return;
    }
    List<Part> all = before.parts().stream().filter(p -> p.kind().equals(kind)).toList();
    double surface = all.stream().mapToDouble(SuddenLoss::size).sum();
    double went = lost.stream().mapToDouble(SuddenLoss::size).sum();
    boolean many = lost.size() >= FEWEST && lost.size() >= limits.share() * all.size();
    boolean large = all.size() > 1 && surface > 0 && went >= limits.share() * surface;
    if (many || large) {
      losses.add(
          new Loss(
              lost.size() + " of " + Words.count(all.size(), "part") + " went: " + names(lost),
              ids(lost)));
    }
  }

  /** Layers that had something on them and have nothing, unless it came to stand on others. */
  private void layers(List<Match> matches) {
    Map<Part, Double> emptied = new LinkedHashMap<>();
    double cameElsewhere = 0;
    double had = 0;
    double has = 0;
    for (Match m : matches) {
      boolean layer = (m.a() == null ? m.b() : m.a()).kind().equals("layer");
      double from = layer && m.a() != null ? m.a().measure("entities") : 0;
      double to = layer && m.b() != null ? m.b().measure("entities") : 0;
      had += from;
      has += to;
      cameElsewhere += Math.max(0, to - from);
      if (from >= limits.entities() && to == 0) {
        emptied.put(m.a(), from);
      }
    }
    double went = emptied.values().stream().mapToDouble(Double::doubleValue).sum();
    if (!emptied.isEmpty() && cameElsewhere < STILL_THERE * went) {
      List<Part> layers = List.copyOf(emptied.keySet());
      losses.add(
          new Loss(
              Words.count(layers.size(), "layer") + " emptied: " + names(layers), ids(layers)));
    } else if (had >= limits.entities() && had - has >= limits.share() * had) {
      losses.add(
          new Loss(
              String.format(
                  java.util.Locale.ROOT, "%.0f of %.0f drawn things went", had - has, had),
              List.of()));
    }
  }

  private void pictures() {
    Set<String> named = named(before);
    Set<String> still = named(after);
    List<String> lost = named.stream().filter(n -> !still.contains(n)).toList();
    if (named.size() - still.size() >= STILL_THERE * named.size() && !lost.isEmpty()) {
      losses.add(
          new Loss(
              lost.size()
                  + " of "
                  + Words.count(named.size(), "linked file")
                  + " no longer named: "
                  + String.join(", ", lost.subList(0, Math.min(3, lost.size()))),
              List.of()));
    }
  }

  private static Set<String> named(Inventory inventory) {
    return inventory.links().stream()
        .filter(Link::namesFile)
        .map(Link::uri)
        .collect(Collectors.toCollection(java.util.TreeSet::new));
  }

  /** A body that looked outwards and looks inwards, otherwise much as before. */
  private static boolean turnedWrong(Match m) {
    double from = m.a().measure("volume");
    double to = m.b().measure("volume");
    return from > 0 && to < 0 && Math.abs(to + from) < LIKE_BEFORE * from;
  }

  /** True if new parts stand where this one stood, or one of them took it up. */
  private static boolean isFilled(Part lost, List<Part> added) {
    double there = 0;
    for (Part part : added) {
      if (part.kind().equals(lost.kind())
          && (holds(lost.bounds(), part.bounds()) || holds(part.bounds(), lost.bounds()))) {
        there += size(part);
      }
    }
    return there > 0 && there >= STILL_THERE * size(lost);
  }

  /** Whether the middle of one lies within the other. */
  private static boolean holds(Box outer, Box inner) {
    if (outer == null || inner == null) {
      return false;
    }
    double room = 0.02 * outer.diagonal();
    for (int k = 0; k < 3; k++) {
      double middle = (inner.min()[k] + inner.max()[k]) / 2;
      if (middle < outer.min()[k] - room || middle > outer.max()[k] + room) {
        return false;
      }
    }
    return true;
  }

  private static double size(Part part) {
    return part.measures().containsKey("area") ? part.measure("area") : part.measure("size");
  }

  private static String names(List<Part> parts) {
    String first = parts.stream().limit(3).map(Part::label).collect(Collectors.joining(", "));
    return parts.size() > 3 ? first + " and " + (parts.size() - 3) + " more" : first;
  }

  private static List<String> ids(List<Part> parts) {
    return parts.stream().map(Part::id).toList();
  }
}
