package dev.kavrin.core.compare;

/**
 * How much may go with one save before a person is asked whether it was meant.
 *
 * @param percent of the parts of a kind, or of their surface, that may go unasked; 0 for never
 *     asking
 * @param entities a layer must have had for its emptying to be asked about
 * @param days for which the state before is kept while nobody answers
 */
public record LossLimits(int percent, int entities, int days) {
  /** Common practice knows no value; found by {@code SuddenLossTest} to tell apart best. */
  public static final LossLimits DEFAULT = new LossLimits(25, 5, 14);

  public static final LossLimits NEVER = new LossLimits(0, 5, 14);

  public LossLimits {
    if (percent < 0 || percent > 100 || entities < 1 || days < 1 || days > 365) {
      throw new IllegalArgumentException(
          "Sudden loss: "
              + percent
              + " % is not within 0 to 100, or "
              + entities
              + " entities is none, or "
              + days
              + " days is not within 1 to 365");
    }
  }

  public boolean asks() {
    return percent > 0;
  }

  double share() {
    return percent / 100.0;
  }
}
