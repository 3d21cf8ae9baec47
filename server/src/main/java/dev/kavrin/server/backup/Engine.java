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
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.replica.ReplicaSync;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.watch.Discovery;
import dev.kavrin.core.watch.NeverSaved;
import dev.kavrin.core.watch.SaveAsSeries;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.Settings;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
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
  private static final String FOLLOWED = "Kavrin, following the chain";
  private static final String MOVED = "Kavrin, the move being done";

  /** Each copy is read again after so long, one at a time. */
  private static final Duration REREAD = Duration.ofDays(14);

  private static final Duration HEARTBEAT = Duration.ofMinutes(5);

  private final String node;
  private final PathGuard guard;
  private final WorkHours hours;
  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final Clockwork clock;
  private final HostProcesses processes = new HostProcesses();
  private final KnownFolders known;
  private final Map<UUID, BackupFolder> folders = new ConcurrentHashMap<>();
  private final Map<UUID, Kept> projects = new ConcurrentHashMap<>();
  private final Set<UUID> toApply = ConcurrentHashMap.newKeySet();
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

  public Engine(
      Settings settings, String node, WorkHours hours, Inspector inspector, Clockwork clock) {
    this.node = node;
    this.guard = new PathGuard(settings.roots());
    this.hours = hours;
    this.disk = new PacedDisk(new RealDisk(), hours::rate, clock);
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

  public WorkHours hours() {
    return hours;
  }

  public Clockwork clock() {
    return clock;
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
      settleWhatIsLeft();
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
    kept.recoveries().look();
    for (BackupFolder folder : kept.recoveries().all()) {
      hours.why(folder.root()).ifPresent(why -> kept.recoveries().standBack(folder, why));
    }
    kept.recovery().requireHere();
    if (!isHere(Path.of(kept.project().folder()))) {
      throw new FolderAwayException(Path.of(kept.project().folder()));
    }
    Optional<JournalEntry.IncidentSet> incident = kept.incidents().tick(kept.project());
    incident.ifPresent(i -> LOG.info("Incident in {}: {}", kept.project().folder(), i.evidence()));
    attempt(
        "securing what was left behind in " + kept.project().folder(),
        () -> kept.incidents().secure(kept.project()));
    if (!kept.watch().isOutOfHours()) {
      applyChanged(kept);
    }
    if (kept.watch().standsBack().isEmpty()) {
      kept.catchUp().tick(kept.project());
      moveOut(kept);
    }
    kept.watch().tick();
  }

  private boolean isHere(Path place) throws IOException {
    return FolderMarker.read(disk, place).isPresent();
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
  public synchronized BackupFolder openFolder(Path root, UUID uuid) throws IOException {
    BackupFolder already = folders.get(uuid);
    if (already != null) {
      return already;
    }
    BackupFolder folder = BackupFolder.open(disk, root, uuid, node);
    settle(folder);
    folder.record(new JournalEntry.Watching(clock.instant(), started));
    known.add(uuid, root);
    folders.put(uuid, folder);
    folder.history().projects().stream()
        .filter(p -> isAllowed(folder, p))
        .forEach(p -> keep(folder, p));
    return folder;
  }

  /** What stays open, because a drive is away, is tried again at the next look. */
  private void settle(BackupFolder folder) throws IOException {
    Reach reach = new WorkReach(disk, folder.history(), guard);
    List<String> open = new JournalRecovery(disk, publisher, folder, reach, clock).settle();
    if (!open.isEmpty()) {
      attempt(
          "settling what a stop left open in " + folder.root(),
          () -> {
            throw new IOException(String.join("; ", open));
          });
    }
  }

  private void settleWhatIsLeft() {
    for (BackupFolder folder : folders.values()) {
      if (!folder.leftOpen().isEmpty()) {
        attempt("settling in " + folder.root(), () -> settle(folder));
      }
    }
  }

  private Restorer restorer(BackupFolder folder) {
    return new Restorer(disk, publisher, inspector, folder, clock);
  }

  private boolean isAllowed(BackupFolder folder, ProjectRecord project) {
    boolean allowed = WorkReach.mayWatch(guard, project);
    if (!allowed) {
      LOG.warn(
          "The journal of {} names work in {}, which lies under no allowed root; it is not watched",
          folder.root(),
          project.folder());
    }
    return allowed;
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
    BackupMaker capturer = new BackupMaker(disk, publisher, inspector, recoveries, clock);
    Retention keeper = new Retention(disk, publisher, recoveries, clock);
    Kept kept =
        new Kept(
            recoveries,
            new ReplicaSync(disk, publisher, recoveries, hours, clock),
            new Watch(disk, recoveries, capturer, keeper, processes, hours, clock, project),
            new IncidentWatch(
                disk,
                recoveries,
                new RetainedLeftovers(disk, publisher, capturer),
                inspector,
                processes,
                hours,
                clock),
            keeper,
            new LeftoverCleanup(disk, publisher, capturer, clock),
            this::restorer);
    projects.put(project.id(), kept);
    return kept;
  }

  /** The folder where the project was set last says which folders it has. */
  private static void join(Kept kept, BackupFolder folder, ProjectRecord project) {
    Instant known = kept.recovery().history().projectSet(project.id()).orElse(Instant.EPOCH);
    Instant there = folder.history().projectSet(project.id()).orElse(Instant.EPOCH);
    ProjectRecord latest = there.isAfter(known) ? project : kept.project();
    if (latest.recoveries().contains(folder.root().toString())) {
      kept.recoveries().add(folder);
      kept.watch().change(latest);
    }
  }

  /** Takes a new project under watch, in an open recovery folder. */
  public synchronized Kept adopt(BackupFolder folder, ProjectRecord project, String who)
      throws IOException {
    folder.record(new JournalEntry.ProjectSet(clock.instant(), who, project));
    Kept kept = keep(folder, project);
    discover(kept);
    return kept;
  }

  /**
   * Changes a project's plan, rule or program. What it drops goes at once, or outside the hours of
   * a place at the first look within them.
   */
  public synchronized void change(Kept kept, ProjectRecord changed, String who) throws IOException {
    kept.recoveries().record(new JournalEntry.ProjectSet(clock.instant(), who, changed));
    kept.watch().change(changed);
    discover(kept);
    toApply.add(changed.id());
    if (!kept.watch().isOutOfHours()) {
      applyChanged(kept);
    }
  }

  private void applyChanged(Kept kept) throws IOException {
    if (toApply.remove(kept.project().id())) {
      for (UUID document : kept.watch().watched()) {
        kept.keeper().apply(kept.project(), document);
      }
    }
  }

  /** Takes one more recovery folder into a project; it is caught up from then on. */
  public synchronized void addRecovery(Kept kept, BackupFolder folder, String who)
      throws IOException {
    List<String> all = new ArrayList<>(kept.project().recoveries());
    all.add(folder.root().toString());
    ProjectRecord changed = kept.project().keptIn(all, kept.project().leaving());
    kept.recoveries().record(new JournalEntry.ProjectSet(clock.instant(), who, changed));
    kept.watch().change(changed);
    kept.recoveries().add(folder);
  }

  /** Begins to move a project's copies out of one of its folders, or with null stops doing so. */
  public synchronized void leave(Kept kept, @Nullable String root, String who) throws IOException {
    ProjectRecord changed = kept.project().keptIn(kept.project().recoveries(), root);
    kept.recoveries().record(new JournalEntry.ProjectSet(clock.instant(), who, changed));
    kept.watch().change(changed);
  }

  /** A helping of moving out; once nothing is left there, the folder serves no longer. */
  private void moveOut(Kept kept) throws IOException {
    ProjectRecord project = kept.project();
    BackupFolder leaving =
        Optional.ofNullable(project.leaving())
            .flatMap(root -> kept.recoveries().at(Path.of(root)))
            .orElse(null);
    if (leaving == null
        || !kept.recoveries().standBack(leaving, "its copies are being moved to the others")
        || !kept.keeper().leave(leaving, project)) {
      return;
    }
    List<String> rest =
        project.recoveries().stream().filter(r -> !r.equals(project.leaving())).toList();
    ProjectRecord changed = project.keptIn(rest, null);
    kept.recoveries().record(new JournalEntry.ProjectSet(clock.instant(), MOVED, changed));
    leaving.record(new JournalEntry.Left(clock.instant(), project.id()));
    kept.recoveries().remove(leaving);
    kept.watch().change(changed);
  }

  private void discoverAndBeat() {
    Instant now = clock.instant();
    if (Duration.between(lastDiscovery, now).abs().compareTo(DISCOVERY) >= 0) {
      lastDiscovery = now;
      projects
          .values()
          .forEach(
              k -> attempt("looking for documents in " + k.project().folder(), () -> discover(k)));
      projects.values().stream()
          .filter(k -> k.watch().standsBack().isEmpty())
          .forEach(
              k ->
                  attempt(
                      "reading copies of " + k.project().name() + " again",
                      () -> k.keeper().rereadOldest(REREAD)));
    }
    if (Duration.between(lastHeartbeat, now).abs().compareTo(HEARTBEAT) >= 0) {
      lastHeartbeat = now;
      for (BackupFolder folder : folders.values()) {
        attempt(
            "noting the watch in " + folder.root(),
            () -> folder.record(new JournalEntry.Watching(now, started)));
      }
      projects.values().stream()
          .filter(k -> k.watch().standsBack().isEmpty())
          .forEach(
              k ->
                  attempt(
                      "emptying the bin of " + k.project().name(), () -> k.keeper().emptyBin()));
    }
  }

  private void discover(Kept kept) throws IOException {
    Path folder = Path.of(kept.project().folder());
    if (!isHere(folder) || kept.watch().standsBack().isPresent()) {
      return;
    }
    List<String> paths =
        kept.recovery().history().documents(kept.project().id()).stream()
            .map(JournalEntry.DocumentSet::path)
            .toList();
    for (Path found :
        Discovery.look(
                disk,
                folder,
                kept.project().rule(),
                kept.project().sets(),
                kept.project().program())
            .documents()) {
      String path = folder.relativize(found).toString();
      if (!paths.contains(path)) {
        followChain(kept, newDocument(kept, path), path);
      }
    }
    for (String path : NeverSaved.look(disk, kept.project(), allDocuments())) {
      newDocument(kept, path);
    }
  }

  private UUID newDocument(Kept kept, String path) throws IOException {
    UUID id = Ids.next(clock.instant());
    kept.recoveries()
        .record(new JournalEntry.DocumentSet(clock.instant(), id, kept.project().id(), path));
    kept.watch().watch(id, path);
    return id;
  }

  private Set<Path> allDocuments() {
    Set<Path> all = new HashSet<>();
    for (Kept kept : projects.values()) {
      Path folder = Path.of(kept.project().folder());
      kept.recovery().history().documents(kept.project().id()).stream()
          .map(d -> folder.resolve(d.path()))
          .forEach(all::add);
    }
    return all;
  }

  /** The next number of a chain goes on by the plan of the one before it. */
  private void followChain(Kept kept, UUID id, String path) throws IOException {
    ProjectRecord project = kept.project();
    Optional<Plan> own =
        SaveAsSeries.of(path, kept.recovery().history().documents(project.id())).stream()
            .filter(d -> project.exceptions().containsKey(d.id()))
            .reduce((earlier, later) -> later)
            .map(d -> project.exceptions().get(d.id()));
    if (own.isPresent()) {
      ProjectRecord changed = project.except(id, own.get());
      kept.recoveries().record(new JournalEntry.ProjectSet(clock.instant(), FOLLOWED, changed));
      kept.watch().change(changed);
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
