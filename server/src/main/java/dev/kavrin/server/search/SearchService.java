package dev.kavrin.server.search;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.chunk.Sketch;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.version.DocumentMatcher;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderRole;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobCancelledException;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobRun;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Walk;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.StrayService;
import dev.kavrin.server.version.VersionFiles;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/**
 * Looks through all places for files that belong to documents, whatever they are called. Reads only
 * those that could, and only what changed since it last looked.
 */
@Service
class SearchService implements JobKinds {
  private static final Logger LOG = LoggerFactory.getLogger(SearchService.class);
  private static final int KNOWN_STATES = 12;
  private static final int TOLD_EVERY = 500;

  private final ProjectService projects;
  private final FolderService places;
  private final VersionFiles stateFiles;
  private final StrayService strays;
  private final StoreSearch stores;
  private final StrangerReading reading;
  private final Engine engine;
  private final SearchRow.Repository rows;
  private final Events events;
  private final InstantSource clock;

  /** Files that were read and are no strays, as they were then. */
  private final Map<Path, FileFacts> settled = new ConcurrentHashMap<>();

  private final JobService jobs;
  private final JobKind<Wanted> searching =
      JobKind.repeatable("search", Lane.ASKED, Wanted.class, this::search);
  private volatile RunningSearch running;

  SearchService(
      ProjectService projects,
      FolderService places,
      VersionFiles stateFiles,
      StrayService strays,
      StoreSearch stores,
      StrangerReading reading,
      Engine engine,
      SearchRow.Repository rows,
      Events events,
      JobService jobs,
      InstantSource clock) {
    this.jobs = jobs;
    this.projects = projects;
    this.places = places;
    this.stateFiles = stateFiles;
    this.strays = strays;
    this.stores = stores;
    this.reading = reading;
    this.engine = engine;
    this.rows = rows;
    this.events = events;
    this.clock = clock;
  }

  /**
   * A search that is to be.
   *
   * @param search its row
   */
  record Wanted(UUID search) {}

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(searching);
  }

  synchronized Search begin(String who) {
    if (open().isPresent()) {
      throw ProblemException.conflict("search-runs", "A search runs already.");
    }
    SearchRow row = rows.save(fresh(Ids.next(clock.instant())));
    jobs.begin(searching, "everywhere", new Wanted(row.uuid), who);
    return Search.of(row);
  }

  private Optional<Job> open() {
    return jobs.open(List.of(searching.name()));
  }

  private SearchRow fresh(UUID id) {
    SearchRow row = rows.findByUuid(id).orElseGet(SearchRow::new);
    row.uuid = id;
    row.started = clock.instant();
    row.looked = "[]";
    return row;
  }

  void cancel() {
    open().ifPresent(job -> jobs.cancel(job.id()));
  }

  /** The one that runs, else the last one; null if there never was one. */
  @Nullable
  Search latest() {
    RunningSearch now = running;
    return now != null
        ? now.seen()
        : rows.findFirstByOrderByIdDesc().map(this::orNeverBegun).map(Search::of).orElse(null);
  }

  /** One that was cancelled before it began has no end of its own. */
  private SearchRow orNeverBegun(SearchRow row) {
    boolean never = row.ended == null && open().isEmpty();
    row.cancelled |= never;
    row.ended = never ? row.started : row.ended;
    return row;
  }

  /** After a stop it begins anew; what was found before stays found. */
  private Search search(Wanted wanted, JobRun job) throws IOException {
    RunningSearch now = new RunningSearch(fresh(wanted.search()), job);
    running = now;
    try {
      through(now);
      if (job.isCancelled()) {
        throw new JobCancelledException();
      }
      return Search.of(now.row);
    } catch (IOException | RuntimeException broken) {
      if (!job.isCancelled()) {
        now.row.problem = "It broke off in " + now.at + ": " + broken.getMessage();
      }
      throw broken;
    } finally {
      now.row.ended = clock.instant();
      now.row.cancelled = job.isCancelled();
      now.row.looked = JsonMapper.shared().writeValueAsString(List.copyOf(now.looked.values()));
      rows.save(now.row);
      running = null;
      events.changed("search");
    }
  }

  private void through(RunningSearch now) throws IOException {
    Map<String, Document> documents = new HashMap<>();
    List<DocumentMatcher.Subject> subjects = new ArrayList<>();
    for (ProjectService.Project project : projects.all()) {
      for (Document document : projects.documents(project.id())) {
        if (!document.linked()) {
          documents.put(document.id().toString(), document);
          subjects.add(subject(project, document));
        }
      }
    }
    Map<Path, FileFacts> facts = new HashMap<>();
    List<DocumentMatcher.Stranger> strangers = new ArrayList<>();
    Set<Path> known = known(documents.values());
    for (Folder place : places.all()) {
      if (isSearched(place) && !now.job.isCancelled() && places.isHere(place)) {
        now.job.at(-1, "Looking through " + place.path());
        strangers.addAll(through(place, now, subjects, known, facts));
      }
    }
    Map<Path, StoreSearch.Fetched> inStores =
        stores.through(now, new Plausible(engine.projects(), subjects), strangers);
    Map<Path, DocumentMatcher.Tie> ties = DocumentMatcher.all(engine.disk(), subjects, strangers);
    for (DocumentMatcher.Stranger stranger : strangers) {
      DocumentMatcher.Tie tie = ties.get(stranger.path());
      boolean isStray = tie != null && tie.by() != DocumentMatcher.By.SHEET;
      StoreSearch.Fetched inStore = inStores.get(stranger.path());
      if (isStray && inStore != null) {
        stores.keep(documents.get(tie.document()), inStore, tie, now);
      } else if (isStray) {
        keep(documents.get(tie.document()), stranger.path(), facts.get(stranger.path()), tie, now);
      } else if (inStore == null) {
        settled.put(stranger.path(), facts.get(stranger.path()));
      }
    }
  }

  private static boolean isSearched(Folder place) {
    return place.role() == FolderRole.WORK || place.role() == FolderRole.PROGRAM;
  }

  private void keep(
      Document document, Path path, FileFacts facts, DocumentMatcher.Tie tie, RunningSearch now)
      throws IOException {
    ContentId content = engine.publisher().identify(path);
    if (strays.found(
        document, content, path.toString(), facts.size(), facts.modifiedNanos(), tie)) {
      now.row.found++;
    }
  }

  /** Live files, and what was tied before: neither is looked at again. */
  private Set<Path> known(Iterable<Document> documents) {
    Set<Path> known = new HashSet<>();
    documents.forEach(d -> known.add(d.live()));
    strays.all().forEach(s -> known.add(Path.of(s.path())));
    return known;
  }

  private DocumentMatcher.Subject subject(ProjectService.Project project, Document document)
      throws IOException {
    VersionFiles.KnownBy known = stateFiles.knownBy(document.id(), KNOWN_STATES);
    List<Sketch> sketches = new ArrayList<>();
    for (Path file : known.files()) {
      sketches.add(reading.sketch(file));
    }
    return new DocumentMatcher.Subject(
        document.id().toString(),
        document.live(),
        Path.of(project.folder()),
        project.rule(),
        project.program(),
        sketches,
        known.parts());
  }

  private List<DocumentMatcher.Stranger> through(
      Folder place,
      RunningSearch now,
      List<DocumentMatcher.Subject> subjects,
      Set<Path> known,
      Map<Path, FileFacts> facts)
      throws IOException {
    Disk disk = engine.disk();
    Plausible plausible = new Plausible(engine.projects(), subjects);
    List<DocumentMatcher.Stranger> strangers = new ArrayList<>();
    long[] counts = new long[2];
    List<String> closed = new ArrayList<>();
    new Walk(disk, now.job::isCancelled)
        .through(
            place.path(),
            new Walk.Visitor() {
              @Override
              public void folder(Path folder) {
                now.at = folder.toString();
                now.row.folders++;
                counts[0]++;
                standBack(now.job);
              }

              @Override
              public void file(Path file, FileFacts seen) {
                now.row.files++;
                counts[1]++;
                if (now.row.files % TOLD_EVERY == 0) {
                  events.changed("search");
                }
                FileFacts before = settled.get(file);
                boolean same = before != null && before.sameAs(seen);
                if (!same && !known.contains(file) && plausible.isWorthReading(file, seen)) {
                  read(file, seen, now, strangers, facts);
                }
              }

              @Override
              public void closed(Path folder) {
                closed.add(folder.toString());
              }
            });
    String path = place.path().toString();
    now.looked.put(path, new Search.Looked(path, counts[0], counts[1], closed));
    return strangers;
  }

  /** A search waits while a run or render works. */
  private void standBack(JobRun job) {
    while (!job.isCancelled()
        && engine.projects().stream().anyMatch(k -> k.watch().standsBack().isPresent())) {
      try {
        Thread.sleep(500);
      } catch (InterruptedException stop) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException("Kavrin is being stopped", stop);
      }
    }
  }

  private void read(
      Path file,
      FileFacts seen,
      RunningSearch now,
      List<DocumentMatcher.Stranger> strangers,
      Map<Path, FileFacts> facts) {
    try {
      strangers.add(reading.stranger(file, file, seen.size(), now));
      facts.put(file, seen);
    } catch (IOException vanished) {
      LOG.debug("{} vanished while it was looked at", file);
    }
  }
}
