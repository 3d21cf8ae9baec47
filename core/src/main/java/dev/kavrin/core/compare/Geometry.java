package dev.kavrin.core.compare;

/** Vertices of parts in world space, on demand. */
@FunctionalInterface
public interface Geometry {
  Geometry NONE = part -> null;

  /** x, y, z of each vertex; null if there is none or it cannot be read. */
  float[] points(String part);
}
