package dev.kavrin.core.health;

/** What can be said of a copy's wholeness, best first. */
public enum Verdict {
  /** Read in full by a reader that knows the format. */
  INTACT("intact"),
  /** No reader knows the format; nothing odd was seen. */
  NO_FAULT("no fault found"),
  NOT_CHECKED("not checked"),
  UNCHECKABLE("could not be checked"),
  DOUBTFUL("doubtful"),
  DAMAGED("damaged");

  private final String words;

  Verdict(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }

  /** True if a copy with this verdict may protect a document. */
  public boolean trustworthy() {
    return this == INTACT || this == NO_FAULT;
  }
}
