package dev.kavrin.core.health;

import java.nio.file.Path;

/** Looks into a file without ever throwing for what it finds there. */
@FunctionalInterface
public interface Inspector {
  /**
   * @param file where the bytes are
   * @param name the file's proper name; its ending chooses the reader
   */
  HealthReport inspect(Path file, String name);
}
