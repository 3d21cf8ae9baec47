package dev.kavrin.core.compare;

import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.Part;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;

/** One part over all states: called what it was called last. */
public final class PartLife {
  /** What became of it. */
  public enum What {
    FIRST,
    CHANGED,
    MOVED,
    RENAMED,
    REPARENTED,
    HIDDEN,
    SHOWN,
    LOST,
    BACK
  }

  /**
   * @param at index of the state in which that is seen first
   * @param words how much, or what it was
   */
  public record Event(int at, What what, String words) {}

  /** States in a row, from and to inclusive, in which it was seen or may have been. */
  public record Stretch(int from, int to) {}

  /**
   * What it was like over some states.
   *
   * @param to the last of them
   */
  public record Form(int from, int to, Part part) {}

  private record Start(int at, Part part) {}

  private final int number;
  private final List<Event> events = new ArrayList<>();
  private final List<Stretch> stretches = new ArrayList<>();
  private final List<Start> starts = new ArrayList<>();
  private final Set<String> names = new HashSet<>();
  private Part last;
  private int from;
  private int lastSeen;
  private boolean there = true;

  PartLife(int number, Part part, int at) {
    this.number = number;
    this.last = part;
    this.from = at;
    this.lastSeen = at;
    names.add(part.id());
    starts.add(new Start(at, part));
    events.add(new Event(at, What.FIRST, ""));
  }

  void seenIfThere(int at) {
    if (there) {
      lastSeen = at;
    }
  }

  void seen(int at, Part part, boolean sameParent) {
    lastSeen = at;
    tell(at, part, sameParent);
    last = part;
    names.add(part.id());
    starts.add(new Start(at, part));
  }

  private void tell(int at, Part part, boolean sameParent) {
    if (!last.label().equals(part.label())) {
      events.add(new Event(at, What.RENAMED, "was " + last.label()));
    }
    if (!sameParent) {
      String above = last.parent() == null ? "the top" : last.parent();
      events.add(new Event(at, What.REPARENTED, "was under " + above));
    }
    if (!part.readable() || !last.readable()) {
      return;
    }
    if (hidden(last) != hidden(part)) {
      events.add(new Event(at, hidden(part) ? What.HIDDEN : What.SHOWN, hiding(part)));
    }
    boolean shape = Objects.equals(last.exact(), part.exact());
    if (!shape || !Objects.equals(last.surface(), part.surface())) {
      events.add(new Event(at, What.CHANGED, Comparer.words(last, part, shape)));
    } else if (!Objects.equals(last.placing(), part.placing())) {
      events.add(new Event(at, What.MOVED, moved(last.bounds(), part.bounds())));
    }
  }

  void lost(int at) {
    there = false;
    stretches.add(new Stretch(from, lastSeen));
    events.add(new Event(at, What.LOST, ""));
  }

  void back(int at, Part part) {
    there = true;
    from = at;
    events.add(new Event(at, What.BACK, ""));
    seen(at, part, true);
  }

  /** True if it is drawn nowhere although it is there. */
  public static boolean hidden(Part part) {
    return Comparer.HIDING.stream().anyMatch(how -> part.measure(how) == 1);
  }

  private static String hiding(Part part) {
    for (String how : Comparer.HIDING) {
      if (part.measure(how) == 1) {
        return how;
      }
    }
    return "";
  }

  /** How far the middle of it went, in the file's own length. */
  private static String moved(Box a, Box b) {
    if (a == null || b == null) {
      return "";
    }
    double sum = 0;
    for (int k = 0; k < 3; k++) {
      double d = (a.min()[k] + a.max()[k] - b.min()[k] - b.max()[k]) / 2;
      sum += d * d;
    }
    return String.format(Locale.ROOT, "by %.4g", Math.sqrt(sum));
  }

  /**
   * Why it is not seen in the newest state, in words; empty if it is.
   *
   * @param newest index of the newest state that could be read, if only in part
   */
  public String whyAbsent(int newest) {
    if (there && hidden(last)) {
      return switch (hiding(last)) {
        case "off" -> "Still there, but switched off.";
        case "frozen" -> "Still there, but frozen.";
        default -> "Still in the file, but hidden: nothing shows it.";
      };
    }
    if (there && !last.readable()) {
      return "Still named, but what it needs is missing or damaged.";
    }
    if (there) {
      return lastSeen >= newest ? "" : "The newest version cannot be read whole; it may be in it.";
    }
    return switch (last.kind()) {
      case "field" -> "No longer written.";
      case "named file" -> "No longer referred to.";
      case "setting" -> "No longer set.";
      default -> "Deleted.";
    };
  }

  public int number() {
    return number;
  }

  public String label() {
    return last.label();
  }

  public String kind() {
    return last.kind();
  }

  /** As it was seen last. */
  public Part last() {
    return last;
  }

  public int first() {
    return events.get(0).at();
  }

  public int lastSeen() {
    return lastSeen;
  }

  /** True if the newest state has it, as far as that could be read. */
  public boolean isThere() {
    return there;
  }

  /** In order. */
  public List<Event> events() {
    return events;
  }

  /** In order. */
  public List<Stretch> stretches() {
    if (!there) {
      return stretches;
    }
    List<Stretch> all = new ArrayList<>(stretches);
    all.add(new Stretch(from, lastSeen));
    return all;
  }

  /** All it was like while it was there, oldest first. */
  public List<Form> forms() {
    List<Form> forms = new ArrayList<>();
    for (Stretch stretch : stretches()) {
      for (int i = 0; i < starts.size(); i++) {
        int next = i + 1 < starts.size() ? starts.get(i + 1).at() - 1 : lastSeen;
        int to = Math.min(stretch.to(), next);
        if (starts.get(i).at() >= stretch.from() && starts.get(i).at() <= to) {
          forms.add(new Form(starts.get(i).at(), to, starts.get(i).part()));
        }
      }
    }
    return forms;
  }

  boolean wasCalled(String id) {
    return names.contains(id);
  }
}
