package dev.kavrin.server.backup;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PacedDisk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.incident.LeftoverCleanup;
import dev.kavrin.core.incident.RetainedLeftovers;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.FolderAwayException;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.replica.ReplicaSync;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Watches, copies and secures, from disk alone: it knows its recovery folders from a file of its
 * own and everything else from their journals. Runs whether or not the database can be reached.
 */
public final class Engine implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Engine.class);
  private static final Duration DISCOVERY = Duration.ofSeconds(10);

  /** Each copy is read again after so long, one at a time. */
  private static final Duration REREAD = Duration.ofDays(14);

  private static final Duration HEARTBEAT = Duration.ofMinutes(5);

  private final String node;
  private final FolderSettling settling;
  private final DocumentFinder finder;
  private final ProjectChanges changes;
  private final WorkHours hours;
  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final Clockwork clock;
  private final HostProcesses processes = new HostProcesses();
  private final KnownFolders known;
  private final Map<UUID, BackupFolder> folders = new ConcurrentHashMap<>();
  private final Map<UUID, Kept> projects = new ConcurrentHashMap<>();
  private final Attempts attempts = new Attempts();
  private final List<Runnable> listeners = new CopyOnWriteArrayList<>();
  private final ScheduledExecutorService ticking =
      Executors.newSingleThreadScheduledExecutor(
          task -> {
            Thread thread = new Thread(task, "watch");
            thread.setDaemon(true);
            return thread;
          });
  private final Instant started;
  private Instant lastDiscovery = Instant.EPOCH;
  private Instant lastHeartbeat = Instant.EPOCH;

  public Engine(
      Settings settings, String node, WorkHours hours, Inspector inspector, Clockwork clock) {
    this.node = node;
    this.hours = hours;
    this.disk = new PacedDisk(new RealDisk(), hours::rate, clock);
    this.publisher = new Publisher(disk, node);
    this.inspector = inspector;
    this.clock = clock;
    this.known = new KnownFolders(disk, settings.data());
    this.started = clock.instant();
    this.settling =
        new FolderSettling(disk, publisher, new PathGuard(settings.roots()), clock, attempts);
    this.finder = new DocumentFinder(disk, clock, projects::values);
    this.changes = new ProjectChanges(clock, finder);
  }

  public Disk disk() {
    return disk;
  }

  public Publisher publisher() {
    return publisher;
  }

  public Inspector inspector() {
    return inspector;
  }

  public WorkHours hours() {
    return hours;
  }

  public Clockwork clock() {
    return clock;
  }

  public ProjectChanges changes() {
    return changes;
  }

  public String node() {
    return node;
  }

  public Collection<BackupFolder> folders() {
    return List.copyOf(folders.values());
  }

  public Collection<Kept> projects() {
    return List.copyOf(projects.values());
  }

  public Optional<Kept> project(UUID id) {
    return Optional.ofNullable(projects.get(id));
  }

  /** Called after each look, from the watching thread. */
  public void afterEachLook(Runnable listener) {
    listeners.add(listener);
  }

  public void start() {
    ticking.scheduleWithFixedDelay(this::lookOnce, 0, 1, TimeUnit.SECONDS);
  }

  private void lookOnce() {
    try {
      openKnown();
      settling.settleWhatIsLeft(folders.values());
      for (Kept kept : projects.values()) {
        attempts.run("watching " + kept.project().folder(), () -> look(kept));
      }
      discoverAndBeat();
    } catch (RuntimeException | IOException | Error unexpected) {
      LOG.error("A look failed", unexpected);
    }
    listeners.forEach(Engine::call);
  }

  private static void call(Runnable listener) {
    try {
      listener.run();
    } catch (RuntimeException | Error failed) {
      LOG.error("Telling of a look failed", failed);
    }
  }

  private void look(Kept kept) throws IOException {
    kept.folders().look();
    for (BackupFolder folder : kept.folders().all()) {
      hours.why(folder.root()).ifPresent(why -> kept.folders().standBack(folder, why));
    }
    kept.folder().requireHere();
    if (!finder.isHere(Path.of(kept.project().folder()))) {
      throw new FolderAwayException(Path.of(kept.project().folder()));
    }
    Optional<JournalEntry.IncidentSet> incident = kept.incidents().tick(kept.project());
    incident.ifPresent(i -> LOG.info("Incident in {}: {}", kept.project().folder(), i.evidence()));
    attempts.run(
        "securing what was left behind in " + kept.project().folder(),
        () -> kept.incidents().secure(kept.project()));
    if (!kept.watch().isOutOfHours()) {
      changes.applyChanged(kept);
    }
    if (kept.watch().standsBack().isEmpty()) {
      kept.sync().tick(kept.project());
      FolderMoves.goOn(kept, clock);
    }
    kept.watch().tick();
  }

  private void openKnown() throws IOException {
    for (Map.Entry<UUID, Path> folder : known.all().entrySet()) {
      if (!folders.containsKey(folder.getKey())) {
        attempts.run(
            "opening " + folder.getValue(), () -> openFolder(folder.getValue(), folder.getKey()));
      }
    }
  }

  /** Opens a recovery folder: settles what a stop left undone, then watches its projects. */
  public synchronized BackupFolder openFolder(Path root, UUID uuid) throws IOException {
    BackupFolder already = folders.get(uuid);
    if (already != null) {
      return already;
    }
    BackupFolder folder = BackupFolder.open(disk, root, uuid, node);
    settling.settle(folder);
    folder.record(new JournalEntry.Watching(clock.instant(), started));
    known.add(uuid, root);
    folders.put(uuid, folder);
    folder.history().projects().stream()
        .filter(p -> settling.mayWatch(folder, p))
        .forEach(p -> keep(folder, p));
    return folder;
  }

  private Restorer restorer(BackupFolder folder) {
    return new Restorer(disk, publisher, inspector, folder, clock);
  }

  /**
   * Watches a project whose folder just opened, or takes the folder in if it is watched already.
   */
  private Kept keep(BackupFolder folder, ProjectRecord project) {
    Kept already = projects.get(project.id());
    if (already != null) {
      join(already, folder, project);
      return already;
    }
    BackupFolders recoveries = BackupFolders.of(folder);
    BackupMaker maker = new BackupMaker(disk, publisher, inspector, recoveries, clock);
    Retention retention = new Retention(disk, publisher, recoveries, clock);
    Kept kept =
        new Kept(
            recoveries,
            new ReplicaSync(disk, publisher, recoveries, hours, clock),
            new Watch(disk, recoveries, maker, retention, processes, hours, clock, project),
            new IncidentWatch(
                disk,
                recoveries,
                new RetainedLeftovers(disk, publisher, maker),
                inspector,
                processes,
                hours,
                clock),
            retention,
            new LeftoverCleanup(disk, publisher, maker, clock),
            this::restorer);
    projects.put(project.id(), kept);
    return kept;
  }

  /** The folder where the project was set last says which folders it has. */
  private static void join(Kept kept, BackupFolder folder, ProjectRecord project) {
    Instant known = kept.folder().history().projectSet(project.id()).orElse(Instant.EPOCH);
    Instant there = folder.history().projectSet(project.id()).orElse(Instant.EPOCH);
    ProjectRecord latest = there.isAfter(known) ? project : kept.project();
    if (latest.recoveries().contains(folder.root().toString())) {
      kept.folders().add(folder);
      kept.watch().change(latest);
    }
  }

  /** Takes a new project under watch, in an open recovery folder. */
  public synchronized Kept adopt(BackupFolder folder, ProjectRecord project, String who)
      throws IOException {
    folder.record(new JournalEntry.ProjectSet(clock.instant(), who, project));
    Kept kept = keep(folder, project);
    finder.look(kept);
    return kept;
  }

  private void discoverAndBeat() {
    Instant now = clock.instant();
    if (Duration.between(lastDiscovery, now).abs().compareTo(DISCOVERY) >= 0) {
      lastDiscovery = now;
      projects
          .values()
          .forEach(
              k ->
                  attempts.run(
                      "looking for documents in " + k.project().folder(), () -> finder.look(k)));
      projects.values().stream()
          .filter(k -> k.watch().standsBack().isEmpty())
          .forEach(
              k ->
                  attempts.run(
                      "reading copies of " + k.project().name() + " again",
                      () -> k.retention().rereadOldest(REREAD)));
    }
    if (Duration.between(lastHeartbeat, now).abs().compareTo(HEARTBEAT) >= 0) {
      lastHeartbeat = now;
      for (BackupFolder folder : folders.values()) {
        attempts.run(
            "noting the watch in " + folder.root(),
            () -> folder.record(new JournalEntry.Watching(now, started)));
      }
      projects.values().stream()
          .filter(k -> k.watch().standsBack().isEmpty())
          .forEach(
              k ->
                  attempts.run(
                      "emptying the bin of " + k.project().name(), () -> k.retention().emptyBin()));
    }
  }

  @Override
  public void close() {
    ticking.shutdown();
    try {
      if (!ticking.awaitTermination(8, TimeUnit.SECONDS)) {
        ticking.shutdownNow();
      }
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
    }
  }
}
