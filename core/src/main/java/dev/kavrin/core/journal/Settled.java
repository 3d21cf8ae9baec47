package dev.kavrin.core.journal;

/**
 * How an operation ended.
 *
 * @param done true if it was finished as planned, false if it was taken back
 * @param told in words
 */
record Settled(boolean done, String told) {
  static final Settled DONE = new Settled(true, "");

  static Settled takenBack(String told) {
    return new Settled(false, told);
  }
}
