package dev.kavrin.core.content;

/** The line work of a drawing, blocks put in their places. */
@FunctionalInterface
public interface Lines {
  /** Told of each straight piece, in the drawing's own unit, y upwards. */
  @FunctionalInterface
  interface Sink {
    void piece(String layer, double fromX, double fromY, double toX, double toY);
  }

  /** The same pieces in the same order whenever it is called. */
  void each(Sink sink);
}
