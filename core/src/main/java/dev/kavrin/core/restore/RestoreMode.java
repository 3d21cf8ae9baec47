package dev.kavrin.core.restore;

/** Where a restored file goes. */
public enum RestoreMode {
  REPLACE,
  BESIDE,
  NEXT,
  BRANCH
}
