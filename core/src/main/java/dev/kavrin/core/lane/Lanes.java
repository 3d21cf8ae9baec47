package dev.kavrin.core.lane;

import java.io.IOException;

/** Has work done, each lane beside the others, and within one the small beside the large. */
public interface Lanes {
  /** Everything at once and in order, by whoever asks for it. */
  Lanes HERE = (lane, bytes, what, work) -> work.run();

  /** Something to do that may fail. */
  @FunctionalInterface
  interface Work {
    void run() throws IOException;
  }

  /**
   * Has it done, now or as soon as what came before it in its lane is done. What waits or runs
   * already is not taken once more.
   *
   * @param bytes about how much will be read or written
   * @param what in words, the same for the same work
   * @throws IOException it failed, where it is done before this returns; else the failure is told
   *     by who does it
   */
  void run(Lane lane, long bytes, String what, Work work) throws IOException;
}
