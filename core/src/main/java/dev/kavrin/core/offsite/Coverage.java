package dev.kavrin.core.offsite;

import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Where the copies of a version lie, all that hold its bytes counted, the live file too.
 *
 * @param copies how many
 * @param disks physical disks that are known to differ
 * @param perhaps further devices of which nobody can tell whether they are disks of their own
 * @param elsewhere copies that survive this site
 * @param verified when the latest of those was read back; null if there are none
 */
public record Coverage(
    int copies, int disks, int perhaps, int elsewhere, @Nullable Instant verified) {

  /**
   * One copy.
   *
   * @param disk its physical disk, else the device it lies on
   * @param known false if nobody can tell whether that device is a disk of its own
   * @param verified when a copy elsewhere was read back; null for one on this site
   */
  public record Copy(String disk, boolean known, @Nullable Instant verified) {
    boolean isElsewhere() {
      return verified != null;
    }
  }

  /**
   * What a person wants to have: so many copies, on so many disks, so many of them elsewhere. The
   * usual rule is 3-2-1 (P. Krogh, The DAM Book, 2005; P. Ruggiero and M. A. Heckathorn, Data
   * Backup Options, US-CERT, 2012; both from memory).
   */
  public record Rule(int copies, int disks, int elsewhere) {
    public static final Rule USUAL = new Rule(3, 2, 1);

    public Rule {
      if (copies < 1 || disks < 1 || elsewhere < 0 || disks > copies || elsewhere > copies) {
        throw new IllegalArgumentException(
            "At least one copy on one disk, and no more disks or copies elsewhere than copies: "
                + copies
                + "-"
                + disks
                + "-"
                + elsewhere);
      }
    }

    @Override
    public String toString() {
      return copies + "-" + disks + "-" + elsewhere;
    }
  }

  /** How a rule is met. */
  public enum Answer {
    YES,
    PERHAPS,
    NO
  }

  /** A store elsewhere is a disk of its own. */
  public static Coverage of(List<Copy> all) {
    List<Copy> elsewhere = all.stream().filter(Copy::isElsewhere).toList();
    List<Copy> here = all.stream().filter(c -> !c.isElsewhere()).toList();
    long known = here.stream().filter(Copy::known).map(Copy::disk).distinct().count();
    long unknown = here.stream().filter(c -> !c.known()).map(Copy::disk).distinct().count();
    boolean onlyUnknown = known == 0 && unknown > 0;
    long stores = elsewhere.stream().map(Copy::disk).distinct().count();
    return new Coverage(
        all.size(),
        (int) (known + stores + (onlyUnknown ? 1 : 0)),
        (int) (unknown - (onlyUnknown ? 1 : 0)),
        elsewhere.size(),
        elsewhere.stream().map(Copy::verified).max(Comparator.naturalOrder()).orElse(null));
  }

  public Answer meets(Rule rule) {
    if (copies < rule.copies() || elsewhere < rule.elsewhere()) {
      return Answer.NO;
    }
    if (disks >= rule.disks()) {
      return Answer.YES;
    }
    return disks + perhaps >= rule.disks() ? Answer.PERHAPS : Answer.NO;
  }

  /** What lacks, in words; empty if the rule is met. */
  public List<String> lacks(Rule rule) {
    List<String> lacks = new ArrayList<>();
    if (copies < rule.copies()) {
      lacks.add(copies + " of " + rule.copies() + " copies");
    }
    if (disks < rule.disks()) {
      lacks.add(
          disks
              + " of "
              + rule.disks()
              + " disks"
              + (disks + perhaps >= rule.disks() ? " for certain" : ""));
    }
    if (elsewhere < rule.elsewhere()) {
      lacks.add(
          rule.elsewhere() == 1
              ? "none elsewhere"
              : elsewhere + " of " + rule.elsewhere() + " elsewhere");
    }
    return lacks;
  }
}
