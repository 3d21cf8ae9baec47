package dev.kavrin.core.profile;

/** Who wrote a copy. Order is nearness to the person's daily work, nearest first. */
public enum CopyKind {
  LIVE("live file"),
  CAPTURE("Kavrin"),
  SECURED("secured by Kavrin"),
  AS_WRITTEN("kept as its program wrote it"),
  AUTOSAVE("program autosave"),
  KEPT_BY_SAVE("kept by a save"),
  RESCUE("rescue file"),
  ASIDE("put aside"),
  STRAY("stray");

  private final String words;

  CopyKind(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }

  /** True for copies that Kavrin made and may drop by a plan. */
  public boolean isOurs() {
    return this == CAPTURE || this == SECURED || this == AS_WRITTEN;
  }
}
