package dev.kavrin.server.search;

import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * A search.
 *
 * @param ended null while it runs
 * @param at folder it is in now, empty once it ended
 * @param read files whose content was read
 * @param problem why it broke off, null if it did not
 */
record Search(
    UUID id,
    Instant started,
    @Nullable Instant ended,
    String at,
    long folders,
    long files,
    long read,
    long bytes,
    long found,
    boolean cancelled,
    @Nullable String problem,
    List<Looked> looked) {

  /**
   * A place that was looked through.
   *
   * @param closed folders that could not be listed
   */
  record Looked(String place, long folders, long files, List<String> closed) {}

  /** One that ended. */
  static Search of(SearchRow r) {
    return new Search(
        r.uuid,
        r.started,
        r.ended,
        "",
        r.folders,
        r.files,
        r.readFiles,
        r.readBytes,
        r.found,
        r.cancelled,
        r.problem,
        JsonMapper.shared().readValue(r.looked, new TypeReference<List<Looked>>() {}));
  }
}
