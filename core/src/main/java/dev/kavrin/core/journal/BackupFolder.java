package dev.kavrin.core.journal;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.BackupName;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.RelativePath;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Consumer;

/** A folder that takes backups: plain files, a journal, a bin. Opened once in a process. */
public final class BackupFolder {
  private static final Duration AGREES = Duration.ofSeconds(2);

  private final Disk disk;
  private final Path root;
  private final UUID uuid;
  private final String node;
  private final Journal journal;
  private final History history;
  private final AtomicBoolean dropsPaused = new AtomicBoolean();
  private final Set<UUID> running = ConcurrentHashMap.newKeySet();
  private final List<Consumer<JournalEntry>> listeners = new CopyOnWriteArrayList<>();
  private final Map<Path, Map<String, Long>> found = new ConcurrentHashMap<>();
  private final ReentrantLock moving = new ReentrantLock();
  private final ReentrantLock packing = new ReentrantLock();

  private BackupFolder(
      Disk disk, Path root, UUID uuid, String node, Journal journal, History history) {
    this.disk = disk;
    this.root = root;
    this.uuid = uuid;
    this.node = node;
    this.journal = journal;
    this.history = history;
  }

  /**
   * Reads the journal; an empty folder is an empty history.
   *
   * @param root absolute path
   * @param uuid of the folder, as its marker must say
   * @param node this installation
   */
  public static BackupFolder open(Disk disk, Path root, UUID uuid, String node) throws IOException {
    Journal journal = new Journal(disk, journalFile(root));
    return new BackupFolder(
        disk, root, uuid, node, journal, History.of(journal.readAll().entries()));
  }

  public Path root() {
    return root;
  }

  public UUID uuid() {
    return uuid;
  }

  public Journal journal() {
    return journal;
  }

  public History history() {
    return history;
  }

  /** While true nothing is dropped here and nothing leaves the bin for good. */
  public AtomicBoolean dropsPaused() {
    return dropsPaused;
  }

  /** Held by whatever moves backups to the bin, back or away, so that no two do at once. */
  public ReentrantLock moving() {
    return moving;
  }

  /**
   * Held by whatever makes packs and recipes, or clears packs away that no recipe needs: what is
   * needed must not become more meanwhile, of whatever project.
   */
  public ReentrantLock packing() {
    return packing;
  }

  /** Writes an operation down before it is done. */
  public void begin(Operation operation, Instant now) throws IOException {
    running.add(operation.id());
    try {
      record(new JournalEntry.Begun(now, operation));
    } catch (IOException | RuntimeException failed) {
      running.remove(operation.id());
      throw failed;
    }
  }

  /** Ends an operation, as it came out. */
  public void done(Operation operation, Instant now) throws IOException {
    record(new JournalEntry.Done(now, operation));
    running.remove(operation.id());
  }

  /** Ends an operation of which nothing is left. */
  public void takenBack(Operation operation, String why, Instant now) throws IOException {
    record(new JournalEntry.TakenBack(now, operation.id(), why));
    running.remove(operation.id());
  }

  /** Its end could not be written: from now on it counts as left open by a stop. */
  public void leftOpen(Operation operation) {
    running.remove(operation.id());
  }

  /** Operations that nobody is at any more and that have no end yet. */
  public List<Operation> leftOpen() {
    return history.undone().stream().filter(o -> !running.contains(o.id())).toList();
  }

  /**
   * How far the clock of what holds the folder is ahead of this machine's, as the last line of the
   * journal shows; zero if they agree within two seconds.
   */
  public Duration clockAhead() throws IOException {
    Optional<FileFacts> file = disk.facts(journalFile(root));
    Duration ahead =
        file.map(f -> Duration.between(history.lastAt(), f.modified())).orElse(Duration.ZERO);
    return ahead.abs().compareTo(AGREES) <= 0 ? Duration.ZERO : ahead;
  }

  public static Path journalFile(Path root) {
    return root.resolve(FolderMarker.FOLDER).resolve("journal.jsonl");
  }

  /** Told each entry once it is written, by the thread that wrote it. */
  public void onRecord(Consumer<JournalEntry> listener) {
    listeners.add(listener);
  }

  /** Writes a line and takes it in. A project keeps the folder name it has here. */
  public void record(JournalEntry entry) throws IOException {
    record(List.of(entry));
  }

  /** The same for several, flushed once. */
  public void record(List<? extends JournalEntry> entries) throws IOException {
    if (entries.isEmpty()) {
      return;
    }
    requireHere();
    List<JournalEntry> fitted = new ArrayList<>();
    for (JournalEntry entry : entries) {
      fitted.add(entry instanceof JournalEntry.ProjectSet set ? fitted(set) : entry);
    }
    journal.append(fitted);
    for (JournalEntry entry : fitted) {
      history.add(entry);
      listeners.forEach(l -> l.accept(entry));
    }
  }

  private JournalEntry.ProjectSet fitted(JournalEntry.ProjectSet set) {
    ProjectRecord project = set.project();
    String slug =
        history
            .project(project.id())
            .map(ProjectRecord::slug)
            .orElseGet(() -> freeSlug(project.slug()));
    return new JournalEntry.ProjectSet(set.at(), set.who(), project.withSlug(slug));
  }

  private String freeSlug(String wanted) {
    List<String> taken = history.projects().stream().map(ProjectRecord::slug).toList();
    String slug = wanted;
    for (int n = 2; taken.contains(slug); n++) {
      slug = wanted + "-" + n;
    }
    return slug;
  }

  /**
   * @throws FolderAwayException the marker is missing or another's
   */
  public void requireHere() throws IOException {
    if (FolderMarker.read(disk, root).filter(this::isOurs).isEmpty()) {
      throw new FolderAwayException(root);
    }
  }

  private boolean isOurs(FolderMarker marker) {
    return marker.uuid().equals(uuid) && marker.node().equals(node);
  }

  /** The folder that takes a document's copies. */
  public Path folderFor(ProjectRecord project, String documentPath) {
    String slug = history.project(project.id()).orElse(project).slug();
    return root.resolve(slug).resolve(documentPath).getParent();
  }

  public Path bin() {
    return root.resolve(FolderMarker.FOLDER).resolve("bin");
  }

  public Path absolute(String relative) {
    return root.resolve(relative);
  }

  /**
   * The same for what is to be moved or taken away.
   *
   * @throws IOException a link stands on the way, so that it may lead elsewhere
   */
  public Path owned(String relative) throws IOException {
    Path path = root.resolve(relative).normalize();
    if (!path.startsWith(root)) {
      throw new IOException(path + " lies outside " + root + ". It was not touched");
    }
    for (Path p = path.getParent(); p != null && !p.equals(root); p = p.getParent()) {
      if (disk.facts(p).filter(f -> f.kind() == FileFacts.Kind.LINK).isPresent()) {
        throw new IOException(p + " is a link to somewhere else. Nothing behind it was touched");
      }
    }
    return path;
  }

  /** A whole path, to work or to a backup, as this folder's system writes it. */
  public Path named(String path) {
    return root.getFileSystem().getPath(path);
  }

  /** As the journal has it: with slashes, whatever this system puts between names. */
  public String relative(Path path) {
    return RelativePath.of(root, path);
  }

  /** The birth number after all that were given here, whatever the journal knows of. */
  public long nextSequence(ProjectRecord project, String documentPath, UUID document)
      throws IOException {
    Path folder = folderFor(project, documentPath);
    disk.makeFolders(folder);
    Map<String, Long> found = found(folder);
    String stem = FileName.of(fileName(documentPath)).shortEnding().stem();
    long last = history.lastSequence(document);
    for (int end = 1; end <= stem.length(); end++) {
      last = Math.max(last, found.getOrDefault(stem.substring(0, end), 0L));
    }
    return last + 1;
  }

  /**
   * The highest birth numbers by the stems of the names that were in a folder when it was first
   * looked at; those given since are in the journal.
   */
  private Map<String, Long> found(Path folder) throws IOException {
    Map<String, Long> known = found.get(folder);
    if (known == null) {
      known = new HashMap<>();
      for (Path path : disk.list(folder)) {
        Optional<BackupName> name = BackupName.parse(path.getFileName().toString());
        if (name.isPresent()) {
          known.merge(name.get().stem(), name.get().sequence(), Math::max);
        }
      }
      found.put(folder, known);
    }
    return known;
  }

  /** Where the copy with a birth number goes. */
  public Path nameFor(ProjectRecord project, String documentPath, long sequence, Instant work) {
    OffsetDateTime time = work.atZone(ZoneId.of(project.zone())).toOffsetDateTime();
    return folderFor(project, documentPath)
        .resolve(BackupName.of(fileName(documentPath), sequence, time).written());
  }

  private static String fileName(String documentPath) {
    return Path.of(documentPath).getFileName().toString();
  }
}
