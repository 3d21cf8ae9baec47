package dev.kavrin.core.host;

/** Which programs are alive on this machine. */
@FunctionalInterface
public interface Processes {
  /** Nothing runs, as far as can be told. */
  Processes EMPTY = words -> false;

  /** True if a process has these words in its command line; false for empty words. */
  boolean runs(String words);
}
