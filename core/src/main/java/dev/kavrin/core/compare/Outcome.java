package dev.kavrin.core.compare;

/** What became of a part between two states, A and B. */
public enum Outcome {
  ADDED,
  REMOVED,
  CHANGED,
  SHIFTED,
  RENAMED,
  REPARENTED,
  UNREADABLE,
  SAME
}
