package dev.kavrin.server.backup;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PacedDisk.Rate;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.watch.FolderHours;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tools.jackson.core.JacksonException;

/**
 * When and how fast Kavrin may work in which place, in a file that is only ever added to; the last
 * line about a place holds. Needs no database.
 */
public final class WorkHours implements FolderHours.Rests {
  private static final Logger LOG = LoggerFactory.getLogger(WorkHours.class);

  private final Disk disk = new RealDisk();
  private final Path file;
  private final ZoneId zone;
  private final InstantSource clock;
  private final Map<Path, FolderHours> places = new ConcurrentHashMap<>();

  private record Line(String place, FolderHours hours) {}

  public WorkHours(Path data, ZoneId zone, InstantSource clock) {
    this.file = data.resolve("place-hours.jsonl");
    this.zone = zone;
    this.clock = clock;
    try {
      for (String line :
          Files.exists(file) ? Files.readAllLines(file) : java.util.List.<String>of()) {
        take(line);
      }
    } catch (IOException unreadable) {
      LOG.warn("{} cannot be read, so no place has hours: {}", file, unreadable.getMessage());
    }
  }

  private void take(String line) {
    try {
      Line read = Journal.MAPPER.readValue(line, Line.class);
      places.put(Path.of(read.place()), read.hours());
    } catch (JacksonException torn) {
      LOG.warn("{}: a line that cannot be read was passed over", file);
    }
  }

  /** What holds for a place. */
  public FolderHours of(Path place) {
    return places.getOrDefault(place, FolderHours.ALWAYS);
  }

  public synchronized void set(Path place, FolderHours hours) throws IOException {
    String line = Journal.MAPPER.writeValueAsString(new Line(place.toString(), hours)) + "\n";
    byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
    try (Sink sink = disk.append(file)) {
      sink.write(bytes, 0, bytes.length);
      sink.flush();
    }
    places.put(place, hours);
  }

  @Override
  public Optional<String> why(Path place) {
    FolderHours hours = of(place);
    return hours.allows(clock.instant(), zone)
        ? Optional.empty()
        : Optional.of("outside the hours set for " + place + ", " + hours.words());
  }

  /** Zero for full speed. */
  public long bytesPerSecond(Path file) {
    return rate(file).map(Rate::bytesPerSecond).orElse(0L);
  }

  /** The rate of the innermost place a file lies in; empty for full speed. */
  Optional<Rate> rate(Path file) {
    return places.entrySet().stream()
        .filter(p -> file.startsWith(p.getKey()))
        .max(Comparator.comparingInt(p -> p.getKey().getNameCount()))
        .filter(p -> p.getValue().bytesPerSecond() > 0)
        .map(p -> new Rate(p.getKey(), p.getValue().bytesPerSecond()));
  }
}
