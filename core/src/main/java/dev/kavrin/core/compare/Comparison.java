package dev.kavrin.core.compare;

import dev.kavrin.core.content.Finding;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;

/**
 * How state B differs from state A.
 *
 * @param changes differences first, by weight; the same last
 * @param bytes how their bytes differ, null where parts were compared
 * @param a what was read of A
 * @param b what was read of B
 * @param tolerance how far lengths may differ and still count as the same
 */
public record Comparison(
    List<PartChange> changes, @Nullable ByteChange bytes, Side a, Side b, double tolerance) {
  /** Goes up whenever the same two files would come to another result. */
  public static final int VERSION = 7;

  /**
   * What was read of one state.
   *
   * @param format "glb", "dxf", "opaque" …
   * @param findings what is wrong with it or worth knowing
   */
  public record Side(String format, List<Finding> findings) {
    /** True if some of it could not be read, so that more may differ than is shown. */
    public boolean isDamaged() {
      return findings.stream().anyMatch(f -> f.severity() == Finding.Severity.DAMAGED);
    }
  }

  /** Comparisons of files that belong together, each part under the role of its file. */
  public static Comparison joined(Map<String, Comparison> byRole) {
    List<PartChange> changes = new ArrayList<>();
    byRole.forEach((role, c) -> c.changes().forEach(p -> changes.add(p.under(role))));
    changes.sort(Comparator.comparing(PartChange::outcome));
    return new Comparison(
        changes,
        byRole.values().stream()
            .map(Comparison::bytes)
            .filter(Objects::nonNull)
            .findFirst()
            .filter(one -> changes.isEmpty())
            .orElse(null),
        joined(byRole.values().stream().map(Comparison::a).toList()),
        joined(byRole.values().stream().map(Comparison::b).toList()),
        byRole.values().stream().mapToDouble(Comparison::tolerance).max().orElse(0));
  }

  private static Side joined(List<Side> sides) {
    return new Side(
        sides.stream().map(Side::format).distinct().collect(Collectors.joining(", ")),
        sides.stream().flatMap(s -> s.findings().stream()).toList());
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
