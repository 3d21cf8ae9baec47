package dev.kavrin.core.watch;

import com.fasterxml.jackson.annotation.JsonIgnore;
import dev.kavrin.core.units.DayHours;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Optional;

/**
 * When and how fast Kavrin may work in a place.
 *
 * @param from hour of the day at which it may begin, in the zone of the people; null for any time
 * @param to when it must stop; before {@code from} if the night lies between; null with it
 * @param bytesPerSecond read or written; zero for full speed
 */
public record FolderHours(@Nullable LocalTime from, @Nullable LocalTime to, long bytesPerSecond) {
  public static final FolderHours ALWAYS = new FolderHours(null, null, 0);
  private static final long SLOWEST = 10_000;

  /** Says whether a place rests now. */
  @FunctionalInterface
  public interface Rests {
    Rests NEVER = place -> Optional.empty();

    /** Why nothing may be read or written there now, in words; empty if it may. */
    Optional<String> why(Path place);
  }

  public FolderHours {
    DayHours.require(from, to);
    if (bytesPerSecond != 0 && bytesPerSecond < SLOWEST) {
      throw new IllegalArgumentException(
          "A rate of " + bytesPerSecond + " B/s would never be done; the least is " + SLOWEST);
    }
  }

  /** True if Kavrin may work there at that moment. */
  public boolean allows(Instant now, ZoneId zone) {
    return DayHours.contain(from, to, now.atZone(zone).toLocalTime());
  }

  @JsonIgnore
  public String words() {
    return from == null ? "any time" : from + " to " + to;
  }
}
