package dev.kavrin.core.disk;

import java.util.EnumSet;
import java.util.Set;

/** Kinds of folders people keep their work and their backups in, by what they refuse. */
public enum FolderKind {
  EVERYTHING,
  NO_EXCHANGE(Refusal.EXCHANGE),
  NO_HARD_LINKS(Refusal.LINK),
  NEITHER(Refusal.EXCHANGE, Refusal.LINK, Refusal.RENAME_IF_FREE),
  REFUSES_WHILE_OPEN(Refusal.WHILE_OPEN),
  NO_PERMISSIONS(Refusal.PERMISSIONS),
  TWO_SECONDS(Refusal.FINE_TIMES),
  NAMES_OF_255_BYTES(Refusal.LONG_NAMES),
  FOLDS_CASE(Refusal.CASE),
  MEMORY_CARD(
      Refusal.EXCHANGE,
      Refusal.LINK,
      Refusal.RENAME_IF_FREE,
      Refusal.PERMISSIONS,
      Refusal.FINE_TIMES,
      Refusal.LONG_NAMES,
      Refusal.CASE);

  /** What a folder cannot do. */
  enum Refusal {
    EXCHANGE,
    LINK,
    RENAME_IF_FREE,
    WHILE_OPEN,
    PERMISSIONS,
    FINE_TIMES,
    LONG_NAMES,
    CASE
  }

  private final Set<Refusal> refusals = EnumSet.noneOf(Refusal.class);

  FolderKind(Refusal... refusals) {
    this.refusals.addAll(Set.of(refusals));
  }

  boolean refuses(Refusal refusal) {
    return refusals.contains(refusal);
  }

  /** A disk of this kind over one that can do everything. */
  public Disk over(Disk disk) {
    return this == EVERYTHING ? disk : new RefusingDisk(disk, this);
  }
}
