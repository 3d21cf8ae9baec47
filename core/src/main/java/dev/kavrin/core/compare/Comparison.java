package dev.kavrin.core.compare;

import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.util.ArrayList;
import java.util.List;

/**
 * How state B differs from state A.
 *
 * @param changes differences first, by weight; the same last
 * @param bytes how their bytes differ, null where parts were compared
 */
public record Comparison(List<PartChange> changes, @Nullable ByteChange bytes) {
  public Comparison(List<PartChange> changes) {
    this(changes, null);
  }

  public long count(Outcome outcome) {
    return changes.stream().filter(c -> c.outcome() == outcome).count();
  }

  /** "B has 2 new parts, lacks 1, 2 changed, 41 the same." */
  public String sentence() {
    if (bytes != null) {
      return bytes.sentence();
    }
    List<String> pieces = new ArrayList<>();
    long added = count(Outcome.ADDED);
    long removed = count(Outcome.REMOVED);
    if (added > 0) {
      pieces.add("has " + Words.count(added, "new part"));
    }
    if (removed > 0) {
      pieces.add("lacks " + removed);
    }
    String rest = tail();
    if (pieces.isEmpty() && rest.isEmpty()) {
      return "Nothing to compare was found in either.";
    }
    if (added + removed + changed() == 0 && count(Outcome.UNREADABLE) == 0) {
      return "No difference: " + Words.count(count(Outcome.SAME), "part") + " the same.";
    }
    String subject = pieces.isEmpty() ? "" : "B " + String.join(", ", pieces);
    return subject + (subject.isEmpty() || rest.isEmpty() ? "" : ", ") + rest + ".";
  }

  private long changed() {
    return count(Outcome.CHANGED)
        + count(Outcome.SHIFTED)
        + count(Outcome.RENAMED)
        + count(Outcome.REPARENTED);
  }

  private String tail() {
    List<String> pieces = new ArrayList<>();
    if (changed() > 0) {
      pieces.add(changed() + " changed");
    }
    if (count(Outcome.UNREADABLE) > 0) {
      pieces.add(count(Outcome.UNREADABLE) + " could not be read");
    }
    if (count(Outcome.SAME) > 0) {
      pieces.add(count(Outcome.SAME) + " the same");
    }
    return String.join(", ", pieces);
  }
}
