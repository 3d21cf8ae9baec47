package dev.kavrin.core.content;

import java.io.IOException;

/** The numbers behind the fields of a file, one field at a time. */
@FunctionalInterface
public interface Fields {
  Fields NONE = part -> new double[0];

  /** Of a field, as they stand; none if there is no such field or it is too large to hold. */
  double[] of(String part) throws IOException;
}
