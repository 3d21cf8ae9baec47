package dev.kavrin.core.plan;

/**
 * Older versions are compacted: put together from packs in which equal pieces stand once.
 *
 * @param newest of each document that stay plain files, 1 at least
 * @param every so many versions one stays a plain file, 2 at least
 */
public record Compacting(int newest, int every) {
  public static final Compacting USUAL = new Compacting(5, 50);

  public Compacting {
    if (newest < 1 || every < 2) {
      throw new IllegalArgumentException(
          "Compacting leaves at least the newest version and some others as plain files");
    }
  }
}
