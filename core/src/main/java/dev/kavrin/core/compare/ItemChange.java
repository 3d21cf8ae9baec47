package dev.kavrin.core.compare;

import dev.kavrin.core.content.Items.Item;
import dev.kavrin.core.units.Words;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * How two lots of small things differ, in whatever order they stand.
 *
 * @param known false if nobody could look at them one by one
 * @param added in B alone
 * @param removed in A alone
 */
record ItemChange(boolean known, long added, long removed) {
  static final ItemChange UNKNOWN = new ItemChange(false, 0, 0);

  /** Numbers far apart are never held against each other; those at the rim of a cell later. */
  private static final double COARSER = 1000;

  private static final int MOST_LEFT = 400;

  static ItemChange of(List<Item> a, List<Item> b, Tolerance tolerance) {
    if (a.isEmpty() && b.isEmpty()) {
      return UNKNOWN;
    }
    double cell = Math.max(tolerance.length() * COARSER, 1e-6);
    Map<String, List<Item>> left = new HashMap<>();
    a.forEach(item -> left.computeIfAbsent(key(item, cell), k -> new ArrayList<>()).add(item));
    List<Item> onlyB = new ArrayList<>();
    for (Item item : b) {
      if (!taken(left.get(key(item, cell)), item, tolerance)) {
        onlyB.add(item);
      }
    }
    Map<String, List<Item>> onlyA = new LinkedHashMap<>();
    left.values().stream()
        .flatMap(List::stream)
        .forEach(i -> onlyA.computeIfAbsent(i.says(), k -> new ArrayList<>()).add(i));
    if (onlyB.size() <= MOST_LEFT) {
      onlyB.removeIf(item -> taken(onlyA.get(item.says()), item, tolerance));
    }
    return new ItemChange(true, onlyB.size(), onlyA.values().stream().mapToLong(List::size).sum());
  }

  private static boolean taken(List<Item> among, Item item, Tolerance tolerance) {
    for (int i = 0; among != null && i < among.size(); i++) {
      if (same(among.get(i), item, tolerance)) {
        among.remove(i);
        return true;
      }
    }
    return false;
  }

  private static boolean same(Item a, Item b, Tolerance tolerance) {
    if (!a.says().equals(b.says()) || a.numbers().length != b.numbers().length) {
      return false;
    }
    for (int i = 0; i < a.numbers().length; i++) {
      double x = a.numbers()[i];
      double y = b.numbers()[i];
      if (Math.abs(x - y) > Math.max(tolerance.length(), Math.abs(x) * 1e-13)) {
        return false;
      }
    }
    return true;
  }

  private static String key(Item item, double cell) {
    StringBuilder key = new StringBuilder(item.says());
    for (double number : item.numbers()) {
      key.append('|').append(Math.round(number / cell));
    }
    return key.toString();
  }

  boolean same() {
    return known && added == 0 && removed == 0;
  }

  /** "3 new, 1 gone". */
  String words() {
    List<String> words = new ArrayList<>();
    if (added > 0 && added == removed) {
      return Words.count(added, "entity").replace("entitys", "entities") + " redrawn";
    }
    if (added > 0) {
      words.add(added + " new");
    }
    if (removed > 0) {
      words.add(removed + " gone");
    }
    return String.join(", ", words);
  }
}
