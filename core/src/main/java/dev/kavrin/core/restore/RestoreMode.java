package dev.kavrin.core.restore;

/** Where a restored file goes. */
public enum RestoreMode {
  REPLACE,
  BESIDE,
  NEXT,
  BRANCH,
  /** In a folder that a person names, perhaps on another drive. */
  ELSEWHERE
}
