package dev.kavrin.core.compact;

import dev.kavrin.core.plan.Compacting;

/**
 * Compacting would pay, as measured on a project's own versions.
 *
 * @param asIf the wish it was measured with
 */
public record CompactingProposal(Compacting asIf, OlderVersions.Estimate comesTo) {
  /** Bytes that would be free again in each backup folder. */
  public long saves() {
    return comesTo.before() - comesTo.after();
  }

  /** True if it frees so many bytes, and half of what is compacted at least. */
  boolean pays(long worth) {
    return saves() >= worth && saves() * 2 >= comesTo.before();
  }
}
