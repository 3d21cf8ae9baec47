package dev.kavrin.core.profile;

import dev.kavrin.core.disk.FileFacts;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * What was seen while watching.
 *
 * @param work where the person says the work lies
 * @param before files that lay there at the first look
 * @param events in the order they were noticed
 * @param cut true if there were more files than are watched
 */
public record Seen(
    Path work,
    Instant from,
    Instant to,
    Map<Path, FileFacts> before,
    List<FileEvent> events,
    List<Ran> processes,
    boolean cut) {

  List<FileEvent> of(Path path) {
    return events.stream().filter(e -> e.path().equals(path)).toList();
  }

  /** Bytes of a file when it was last seen; 0 if it never was. */
  public long size(Path path) {
    List<FileEvent> events = of(path);
    FileFacts facts = events.isEmpty() ? before.get(path) : events.get(events.size() - 1).facts();
    return facts == null ? 0 : facts.size();
  }

  /** True if nothing happened yet, so that only what lies there can tell. */
  public boolean idle() {
    return events.isEmpty();
  }
}
