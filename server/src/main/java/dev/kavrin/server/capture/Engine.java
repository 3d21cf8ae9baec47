package dev.kavrin.server.capture;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.store.Capturer;
import dev.kavrin.core.store.Discovery;
import dev.kavrin.core.store.IncidentWatch;
import dev.kavrin.core.store.JournalEntry;
import dev.kavrin.core.store.Keeper;
import dev.kavrin.core.store.Leftovers;
import dev.kavrin.core.store.PlaceAwayException;
import dev.kavrin.core.store.PlaceMarker;
import dev.kavrin.core.store.ProjectRecord;
import dev.kavrin.core.store.RecoveryFolder;
import dev.kavrin.core.store.Settling;
import dev.kavrin.core.store.Watch;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
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
  private static final Duration HEARTBEAT = Duration.ofMinutes(5);

  private final String node;
  private final Disk disk = new RealDisk();
  private final Publisher publisher;
  private final Inspector inspector;
  private final InstantSource clock;
  private final Processes processes = new Processes();
  private final KnownFolders known;
  private final Map<UUID, RecoveryFolder> folders = new ConcurrentHashMap<>();
  private final Map<UUID, Kept> projects = new ConcurrentHashMap<>();
  private final Map<String, String> told = new ConcurrentHashMap<>();
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

  public Engine(Settings settings, String node, Inspector inspector, InstantSource clock) {
    this.node = node;
    this.publisher = new Publisher(disk, node);
    this.inspector = inspector;
    this.clock = clock;
    this.known = new KnownFolders(disk, settings.data());
    this.started = clock.instant();
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

  public String node() {
    return node;
  }

  public Collection<RecoveryFolder> folders() {
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
      for (Kept kept : projects.values()) {
        attempt("watching " + kept.project().folder(), () -> look(kept));
      }
      discoverAndBeat();
    } catch (RuntimeException | IOException unexpected) {
      LOG.error("A look failed", unexpected);
    }
    listeners.forEach(Engine::call);
  }

  private static void call(Runnable listener) {
    try {
      listener.run();
    } catch (RuntimeException failed) {
      LOG.error("Telling of a look failed", failed);
    }
  }

  private interface Deed {
    void run() throws IOException;
  }

  /** Runs; a failure is logged once, until it changes or passes. */
  private void attempt(String what, Deed deed) {
    try {
      deed.run();
      if (told.remove(what) != null) {
        LOG.info("{}: well again", what);
      }
    } catch (IOException failed) {
      String words = String.valueOf(failed.getMessage());
      if (!words.equals(told.put(what, words))) {
        LOG.warn("{}: {}", what, words);
      }
    }
  }

  private void look(Kept kept) throws IOException {
    kept.recovery().requireHere();
    if (!isHere(Path.of(kept.project().folder()))) {
      throw new PlaceAwayException(Path.of(kept.project().folder()));
    }
    Optional<JournalEntry.IncidentSet> incident = kept.incidents().tick(kept.project());
    incident.ifPresent(i -> LOG.info("Incident in {}: {}", kept.project().folder(), i.evidence()));
    kept.watch().tick();
  }

  private boolean isHere(Path place) throws IOException {
    return PlaceMarker.read(disk, place).isPresent();
  }

  private void openKnown() throws IOException {
    for (Map.Entry<UUID, Path> folder : known.all().entrySet()) {
      if (!folders.containsKey(folder.getKey())) {
        attempt(
            "opening " + folder.getValue(), () -> openFolder(folder.getValue(), folder.getKey()));
      }
    }
  }

  /** Opens a recovery folder: settles what a stop left undone, then watches its projects. */
  public synchronized RecoveryFolder openFolder(Path root, UUID uuid) throws IOException {
    RecoveryFolder already = folders.get(uuid);
    if (already != null) {
      return already;
    }
    RecoveryFolder folder = RecoveryFolder.open(disk, root, uuid, node);
    List<JournalEntry.Intent> restores =
        new Settling(disk, publisher, inspector, folder, clock).settle();
    Restorer restorer = new Restorer(disk, publisher, inspector, folder, clock);
    for (JournalEntry.Intent intent : restores) {
      restorer.settle(intent);
    }
    folder.record(new JournalEntry.Watching(clock.instant(), started));
    known.add(uuid, root);
    folders.put(uuid, folder);
    folder.history().projects().forEach(p -> keep(folder, p));
    return folder;
  }

  private Kept keep(RecoveryFolder folder, ProjectRecord project) {
    Capturer capturer = new Capturer(disk, publisher, inspector, folder, clock);
    Keeper keeper = new Keeper(disk, publisher, folder, clock);
    Kept kept =
        new Kept(
            folder,
            new Watch(disk, folder, capturer, keeper, clock, project),
            new IncidentWatch(
                disk,
                folder,
                new Leftovers(disk, publisher, capturer),
                inspector,
                processes,
                clock),
            keeper,
            new Restorer(disk, publisher, inspector, folder, clock));
    projects.put(project.id(), kept);
    return kept;
  }

  /** Takes a new project under watch, in an open recovery folder. */
  public synchronized Kept adopt(RecoveryFolder folder, ProjectRecord project, String who)
      throws IOException {
    folder.record(new JournalEntry.ProjectSet(clock.instant(), who, project));
    Kept kept = keep(folder, project);
    discover(kept);
    return kept;
  }

  /** Changes a project's plan, rule or program; drops follow at the next copy. */
  public synchronized void change(Kept kept, ProjectRecord changed, String who) throws IOException {
    kept.recovery().record(new JournalEntry.ProjectSet(clock.instant(), who, changed));
    kept.watch().change(changed);
    discover(kept);
    for (UUID document : kept.watch().watched()) {
      kept.keeper().apply(changed, document);
    }
  }

  private void discoverAndBeat() {
    Instant now = clock.instant();
    if (Duration.between(lastDiscovery, now).abs().compareTo(DISCOVERY) >= 0) {
      lastDiscovery = now;
      projects
          .values()
          .forEach(
              k -> attempt("looking for documents in " + k.project().folder(), () -> discover(k)));
    }
    if (Duration.between(lastHeartbeat, now).abs().compareTo(HEARTBEAT) >= 0) {
      lastHeartbeat = now;
      for (RecoveryFolder folder : folders.values()) {
        attempt(
            "noting the watch in " + folder.root(),
            () -> folder.record(new JournalEntry.Watching(now, started)));
      }
      projects
          .values()
          .forEach(
              k ->
                  attempt(
                      "emptying the bin of " + k.recovery().root(), () -> k.keeper().emptyBin()));
    }
  }

  private void discover(Kept kept) throws IOException {
    Path folder = Path.of(kept.project().folder());
    if (!isHere(folder)) {
      return;
    }
    List<String> paths =
        kept.recovery().history().documents(kept.project().id()).stream()
            .map(JournalEntry.DocumentSet::path)
            .toList();
    for (Path found : Discovery.look(disk, folder, kept.project().rule()).documents()) {
      String path = folder.relativize(found).toString();
      if (!paths.contains(path)) {
        UUID id = Ids.next(clock.instant());
        kept.recovery()
            .record(new JournalEntry.DocumentSet(clock.instant(), id, kept.project().id(), path));
        kept.watch().watch(id, path);
      }
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
