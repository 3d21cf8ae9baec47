package dev.kavrin.server.search;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.units.Moments;
import dev.kavrin.core.version.DocumentMatcher;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.version.StrayService;
import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** The part of a search that goes through the stores elsewhere. */
@Component
class StoreSearch {
  private static final Logger LOG = LoggerFactory.getLogger(StoreSearch.class);

  private final StoreFiles files;
  private final StrangerReading reading;
  private final StrayService strays;

  StoreSearch(StoreFiles files, StrangerReading reading, StrayService strays) {
    this.files = files;
    this.reading = reading;
    this.strays = strays;
  }

  /** An object that was fetched to be looked at. */
  record Fetched(StoreFiles.Foreign object, ContentId content) {}

  /**
   * Fetches and reads what is named like a document; what was found before is not fetched again.
   *
   * @param strangers takes them, each by the path it would have if its store were a folder
   * @return what they are, by these paths
   */
  Map<Path, Fetched> through(
      RunningSearch now, Plausible plausible, List<DocumentMatcher.Stranger> strangers) {
    Set<String> known =
        strays.all().stream().map(StrayService.Stray::path).collect(Collectors.toSet());
    Map<Path, Fetched> found = new HashMap<>();
    for (StoreFiles.Foreign object :
        files.all(f -> plausible.isWorthFetching(f.asPath()) && !known.contains(f.address()))) {
      if (now.job.isCancelled()) {
        break;
      }
      now.at = object.address();
      now.row.files++;
      try {
        files.fetched(
            object,
            (file, content) -> {
              strangers.add(reading.stranger(object.asPath(), file, object.object().length(), now));
              return found.put(object.asPath(), new Fetched(object, content));
            });
      } catch (IOException lost) {
        LOG.info("{} could not be fetched: {}", object.address(), lost.getMessage());
      }
    }
    return found;
  }

  /** Writes down what it was tied to. */
  void keep(Document document, Fetched fetched, DocumentMatcher.Tie tie, RunningSearch now) {
    StoreFiles.Foreign object = fetched.object();
    if (strays.found(
        document,
        fetched.content(),
        object.address(),
        object.object().length(),
        Moments.nanos(object.modified()),
        tie)) {
      now.row.found++;
    }
  }
}
