package dev.kavrin.core.lane;

/** Kinds of work on files, the most urgent first. None waits for a less urgent one. */
public enum Lane {
  /** What a crash left behind. */
  SECURE,
  /** What a person waits for, to have work back. */
  RESTORE,
  /** What a plan says is due. */
  BACKUP,
  /** What a person asked to see. */
  ASKED,
  /** What nobody waits for: folders brought up to date, backups read again. */
  BULK;

  /** From so many bytes on, work goes beside the small and not before it. */
  public static final long LARGE = 100_000_000;
}
