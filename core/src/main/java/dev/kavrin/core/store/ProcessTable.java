package dev.kavrin.core.store;

/** Which programs are alive on this machine. */
@FunctionalInterface
public interface ProcessTable {
  /** Nothing runs, as far as can be told. */
  ProcessTable EMPTY = words -> false;

  /** True if a process has these words in its command line; false for empty words. */
  boolean runs(String words);
}
