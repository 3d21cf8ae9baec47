package dev.kavrin.server.platform;

import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.lane.Lane;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.util.Map;
import java.util.function.ToLongFunction;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Two readers, so that a small file's backup never waits until a large one's was read. */
public final class BackupReaders implements Inspector, AutoCloseable {
  private final ReaderProcess small;
  private final ReaderProcess large;

  /**
   * @param rates bytes a second a file may be read with, zero for full speed
   */
  public BackupReaders(ToLongFunction<Path> rates) {
    small = new ReaderProcess(rates, file -> Map.of());
    large = new ReaderProcess(rates, file -> Map.of());
  }

  @Override
  public HealthReport inspect(Path file, String name) {
    return (isLarge(file) ? large : small).inspect(file, name);
  }

  private boolean isLarge(Path file) {
    return small.size(file).orElse(Lane.LARGE) >= Lane.LARGE;
  }

  /** Why one of them gave up the last time it was asked, in words; null if none did. */
  @Nullable
  public String trouble() {
    String told =
        Stream.of(small, large)
            .map(ReaderProcess::trouble)
            .filter(t -> t != null)
            .collect(Collectors.joining("; "));
    return told.isEmpty() ? null : told;
  }

  @Override
  public void close() {
    small.close();
    large.close();
  }
}
