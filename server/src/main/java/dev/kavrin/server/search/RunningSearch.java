package dev.kavrin.server.search;

import dev.kavrin.server.job.JobRun;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** A search under way. */
final class RunningSearch {
  final SearchRow row;
  final JobRun job;
  final Map<String, Search.Looked> looked = new LinkedHashMap<>();
  volatile String at = "";

  RunningSearch(SearchRow row, JobRun job) {
    this.job = job;
    this.row = row;
  }

  Search seen() {
    return new Search(
        row.uuid,
        row.started,
        row.ended,
        at,
        row.folders,
        row.files,
        row.readFiles,
        row.readBytes,
        row.found,
        job.isCancelled(),
        null,
        List.of());
  }
}
