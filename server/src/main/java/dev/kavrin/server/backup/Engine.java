package dev.kavrin.server.backup;

import dev.kavrin.core.disk.AnsweringDisk;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PacedDisk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.offsite.OffsiteStores;
import dev.kavrin.core.offsite.Passphrases;
import dev.kavrin.core.offsite.SealedStores;
import dev.kavrin.core.offsite.Stores;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.retention.DiskRooms;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.server.platform.OutsideTransactions;
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
import java.util.function.Consumer;

/**
 * Watches, copies and secures, from disk alone: it knows its backup folders from a file of its own
 * and everything else from their journals. Runs whether or not the database can be reached; each
 * project and each folder has lanes of its own, so that none waits for another.
 */
public final class Engine implements AutoCloseable {
  /** A folder that answers nothing for so long is not answering. */
  private static final Duration PATIENCE = Duration.ofSeconds(5);

  private static final Duration HEARTBEAT = Duration.ofMinutes(5);

  private final String node;
  private final PathGuard guard;
  private final FolderSettling settling;
  private final ProjectLook look;
  private final ProjectChanges changes;
  private final DocumentFinder finder;
  private final ProjectParts parts;
  private final WorkHours hours;
  private final Stores stores;
  private final AnsweringDisk answering;
  private final CompactedDisk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final Clockwork clock;
  private final KnownFolders known;
  private final Map<UUID, BackupFolder> folders = new ConcurrentHashMap<>();
  private final Map<UUID, Object> opening = new ConcurrentHashMap<>();
  private final Map<UUID, WorkLanes> folderLanes = new ConcurrentHashMap<>();
  private final Map<UUID, Kept> projects = new ConcurrentHashMap<>();
  private final FolderRoots roots;
  private final Attempts attempts = new Attempts();
  private final WorkLanes.Shared shared = new WorkLanes.Shared();
  private final List<Consumer<JournalEntry>> listeners = new CopyOnWriteArrayList<>();
  private final ScheduledExecutorService ticking =
      Executors.newSingleThreadScheduledExecutor(
          task -> {
            Thread thread = new Thread(task, "watch");
            thread.setDaemon(true);
            return thread;
          });
  private final Instant started;
  private volatile Instant lastRound = Instant.EPOCH;
  private Instant lastHeartbeat = Instant.EPOCH;

  public Engine(
      Settings settings,
      String node,
      WorkHours hours,
      Inspector inspector,
      Stores buckets,
      Passphrases passphrases,
      Clockwork clock,
      Disk real) {
    this.node = node;
    this.hours = hours;
    this.roots = new FolderRoots(settings.roots());
    this.answering = new AnsweringDisk(real, roots::of, PATIENCE);
    this.disk =
        new CompactedDisk(
            new OutsideTransactions(new PacedDisk(answering, hours::rate, shared::giveWay, clock)));
    this.publisher = new Publisher(disk, node);
    this.inspector = inspector;
    this.clock = clock;
    this.known = new KnownFolders(disk, settings.data());
    this.started = clock.instant();
    this.guard = new PathGuard(settings.roots(), disk);
    this.settling = new FolderSettling(disk, publisher, guard, clock, attempts);
    this.finder = new DocumentFinder(disk, clock, projects::values);
    this.changes = new ProjectChanges(clock, finder);
    this.look = new ProjectLook(finder, changes, hours, attempts, clock);
    this.stores = new SealedStores(new OffsiteStores(disk, publisher, buckets), passphrases);
    DiskRooms rooms = Kept.rooms(disk, projects::values);
    this.parts = new ProjectParts(disk, publisher, inspector, hours, stores, rooms, clock);
  }

  public Disk disk() {
    return disk;
  }

  /** The one that knows which folders take backups. */
  public PathGuard guard() {
    return guard;
  }

  public Publisher publisher() {
    return publisher;
  }

  public Inspector inspector() {
    return inspector;
  }

  /** Connects to stores elsewhere. */
  public Stores stores() {
    return stores;
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

  /** Where all documents stand, or stood. */
  public List<Path> livePaths() {
    return projects.values().stream().flatMap(k -> k.livePaths().stream()).toList();
  }

  public Optional<Kept> project(UUID id) {
    return Optional.ofNullable(projects.get(id));
  }

  /** False while what was asked of a folder has not returned. */
  public boolean answers(Path folder) {
    return answering.answers(folder);
  }

  /** When all projects were last sent to look. */
  public Instant lastRound() {
    return lastRound;
  }

  /** What is tried again and again and fails just now, in words. */
  public List<String> failing() {
    return attempts.failing();
  }

  /** Told each fact that was written down, by the thread that wrote it. */
  public void onRecord(Consumer<JournalEntry> listener) {
    listeners.add(listener);
  }

  public void start() {
    ticking.scheduleWithFixedDelay(
        () -> attempts.run("looking round", this::round), 0, 1, TimeUnit.SECONDS);
  }

  /** Sends everybody to look, and waits for nobody. */
  private void round() throws IOException {
    for (Map.Entry<UUID, Path> folder : known.all().entrySet()) {
      if (!folders.containsKey(folder.getKey())) {
        lanesOf(folder.getKey())
            .look(
                "opening " + folder.getValue(),
                () -> openFolder(folder.getValue(), folder.getKey()));
      }
    }
    boolean beat = isDue();
    for (BackupFolder folder : folders.values()) {
      WorkLanes lanes = lanesOf(folder.uuid());
      lanes.look("settling in " + folder.root(), () -> settling.settleWhatIsLeft(folder));
      if (beat) {
        lanes.look(
            "noting the watch in " + folder.root(),
            () -> folder.record(new JournalEntry.Watching(clock.instant(), started)));
      }
    }
    for (Kept kept : projects.values()) {
      look.send(kept, beat);
    }
    lastRound = clock.instant();
  }

  private boolean isDue() {
    Instant now = clock.instant();
    boolean due = Duration.between(lastHeartbeat, now).abs().compareTo(HEARTBEAT) >= 0;
    lastHeartbeat = due ? now : lastHeartbeat;
    return due;
  }

  private WorkLanes lanesOf(UUID folder) {
    return folderLanes.computeIfAbsent(folder, f -> new WorkLanes(shared, attempts));
  }

  /** Opens a backup folder: settles what a stop left undone, then watches its projects. */
  public BackupFolder openFolder(Path root, UUID uuid) throws IOException {
    synchronized (opening.computeIfAbsent(uuid, u -> new Object())) {
      BackupFolder already = folders.get(uuid);
      if (already != null) {
        return already;
      }
      roots.add(root);
      guard.takesBackups(root);
      BackupFolder folder = BackupFolder.open(disk, root, uuid, node);
      settling.settle(folder);
      folder.record(new JournalEntry.Watching(clock.instant(), started));
      known.add(uuid, root);
      folder.onRecord(entry -> listeners.forEach(l -> l.accept(entry)));
      folders.put(uuid, folder);
      folder.history().projects().stream()
          .filter(p -> settling.mayWatch(folder, p))
          .forEach(p -> keep(folder, p));
      return folder;
    }
  }

  /**
   * Watches a project whose folder just opened, or takes the folder in if it is watched already.
   */
  private synchronized Kept keep(BackupFolder folder, ProjectRecord project) {
    Kept already = projects.get(project.id());
    if (already != null) {
      join(already, folder, project);
      return already;
    }
    roots.add(Path.of(project.folder()));
    Kept kept = parts.of(folder, project, new WorkLanes(shared, attempts));
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

  /** Takes a new project under watch, in an open backup folder. */
  public Kept adopt(BackupFolder folder, ProjectRecord project, String who) throws IOException {
    folder.record(new JournalEntry.ProjectSet(clock.instant(), who, project));
    Kept kept = keep(folder, project);
    finder.look(kept);
    return kept;
  }

  @Override
  public void close() {
    ticking.shutdownNow();
    shared.close();
    for (Kept kept : projects.values()) {
      attempts.run("leaving " + kept.project().folder(), kept.incidents()::leave);
      kept.offsite().close();
    }
  }
}
