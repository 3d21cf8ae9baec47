package dev.kavrin.core.bundle;

import java.util.List;
import java.util.Map;

/**
 * What was found in a bag. Complete: nothing named is missing and nothing is there unnamed. Valid:
 * complete, and every digest is right (RFC 8493, section 3).
 *
 * @param version it says it follows
 * @param payload paths in the bag that are there and named
 * @param info what it says about itself
 * @param missing named in a manifest and not there
 * @param extra there and named in no manifest, or not in each
 * @param altered whose digest is another
 * @param fetched to be had from elsewhere, which is not done
 * @param faults what else is wrong, in words
 */
public record BagReport(
    String version,
    List<String> payload,
    Map<String, String> info,
    List<String> missing,
    List<String> extra,
    List<String> altered,
    List<String> fetched,
    List<String> faults) {
  public boolean isComplete() {
    return missing.isEmpty() && extra.isEmpty() && faults.isEmpty();
  }

  public boolean isValid() {
    return isComplete() && altered.isEmpty();
  }
}
