package dev.kavrin.core.plan;

/**
 * Older versions are compacted: put together from packs in which equal pieces stand once.
 *
 * @param on false where all stay plain files
 * @param newest of each document that stay plain files, 1 at least
 * @param every so many versions one stays a plain file, 2 at least
 */
public record Compacting(boolean on, int newest, int every) {
  public static final Compacting OFF = new Compacting(false, 5, 50);

  private static final int MOST = 10_000;

  public Compacting {
    if (newest < 1 || newest > MOST || every < 2 || every > MOST) {
      throw new IllegalArgumentException(
          "Plain versions: the newest "
              + newest
              + " and one of every "
              + every
              + " is not within 1 to "
              + MOST
              + " and 2 to "
              + MOST);
    }
  }

  /** Of so many versions, those that stay plain files. */
  public long plainOf(long versions) {
    long older = Math.max(0, versions - newest);
    return on ? versions - older + (older + every - 1) / every : versions;
  }
}
