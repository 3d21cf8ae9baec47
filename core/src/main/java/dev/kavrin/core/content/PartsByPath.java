package dev.kavrin.core.content;

import java.util.HashMap;
import java.util.Map;

/** Makes paths of labels unique, in the order they are met. */
public final class PartsByPath {
  private final Map<String, Integer> taken = new HashMap<>();

  /** The path itself the first time, then with a number behind it. */
  public String unique(String path) {
    int count = taken.merge(path, 1, Integer::sum);
    return count == 1 ? path : unique(path + " #" + count);
  }
}
