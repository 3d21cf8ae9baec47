package dev.kavrin.core.health;

import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Finding.Severity;
import dev.kavrin.core.units.Sizes;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * What the other copies of a document say of one of a kind nobody can read: it should begin as they
 * do and be about as large. That makes it doubtful at most.
 */
public final class Siblings {
  /** Code of the finding of a long run of zeros. */
  public static final String HOLE = ZeroRuns.HOLE;

  private static final int FEWEST = 3;
  private static final int BEGINNING = 4;
  private static final double SMALL = 0.6;

  private Siblings() {}

  /**
   * A copy as its siblings see it.
   *
   * @param head its first bytes, as many as there are up to 16
   * @param hole true if a long run of zeros was found inside
   */
  public record Looks(long size, byte[] head, boolean hole) {
    public static Looks of(long size, byte[] head, HealthReport report) {
      return new Looks(size, head, report.findings().stream().anyMatch(f -> f.code().equals(HOLE)));
    }
  }

  /**
   * @param own the copy that was read
   * @param before those of the states before it, oldest first
   */
  public static HealthReport compare(HealthReport report, Looks own, List<Looks> before) {
    if (report.verdict() != Verdict.NO_FAULT || before.size() < FEWEST) {
      return report;
    }
    List<Finding> findings = new ArrayList<>(report.findings());
    byte[] usual = beginning(before.get(before.size() - 1));
    boolean shared = before.stream().allMatch(s -> Arrays.equals(beginning(s), usual));
    if (shared && usual.length == BEGINNING && !Arrays.equals(beginning(own), usual)) {
      findings.add(
          Finding.doubtful("first-bytes", 0, "It does not begin as the copies before it do."));
    }
    long median = median(before.subList(Math.max(0, before.size() - 5), before.size()));
    if (own.size() < median * SMALL) {
      findings.add(
          Finding.doubtful(
              "small",
              own.size(),
              "It has "
                  + Sizes.words(own.size())
                  + ", those before it had "
                  + Sizes.words(median)
                  + "."));
    }
    if (own.hole() && before.stream().noneMatch(Looks::hole)) {
      findings.add(
          Finding.doubtful("hole", -1, "It holds a long run of zeros; none before it does."));
    }
    boolean odd = findings.stream().anyMatch(f -> f.severity() == Severity.DOUBTFUL);
    return odd
        ? new HealthReport(Verdict.DOUBTFUL, List.copyOf(findings), report.inventory())
        : report;
  }

  private static byte[] beginning(Looks looks) {
    return Arrays.copyOf(looks.head(), Math.min(BEGINNING, looks.head().length));
  }

  private static long median(List<Looks> some) {
    long[] sizes = some.stream().mapToLong(Looks::size).sorted().toArray();
    return sizes[sizes.length / 2];
  }
}
