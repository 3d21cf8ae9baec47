package dev.kavrin.core.offsite;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.retention.Scrub;
import dev.kavrin.core.units.Clockwork;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Keeps the stores elsewhere of one project as their rules want them. A store that fails costs only
 * itself, and is asked again after a while. One round at a time.
 */
public final class OffsiteSync implements AutoCloseable {
  private static final Duration LOOKED_EVERY = Duration.ofMinutes(10);
  private static final Duration FIRST_PAUSE = Duration.ofSeconds(5);
  private static final Duration LONGEST_PAUSE = Duration.ofMinutes(5);

  private final Disk disk;
  private final Scrub scrub;
  private final BackupFolders folders;
  private final Stores stores;
  private final Clockwork clock;
  private final Map<UUID, OffsiteLink> links = new ConcurrentHashMap<>();
  private final Map<UUID, Course> courses = new ConcurrentHashMap<>();

  public OffsiteSync(
      Disk disk, Publisher publisher, BackupFolders folders, Stores stores, Clockwork clock) {
    this.disk = disk;
    this.scrub = new Scrub(disk, publisher, clock);
    this.folders = folders;
    this.stores = stores;
    this.clock = clock;
  }

  /** How the last rounds went. */
  private static final class Course {
    volatile String problem;
    volatile Instant answered;
    volatile String sending;
    Instant next = Instant.MIN;
    Duration pause = FIRST_PAUSE;
    long seen = -1;
    Instant looked = Instant.MIN;
  }

  /**
   * How it stands with a store.
   *
   * @param problem why nothing is sent, in words; null if all goes well
   * @param answered when it last answered; null if it did not since the start
   * @param sending path of the backup that is being sent; null if none is
   * @param waiting backups that are to be sent, as far as is known here
   */
  public record Standing(
      StoreAddress store,
      @Nullable String problem,
      @Nullable Instant answered,
      @Nullable String sending,
      List<BackupRecord> waiting,
      List<CopyElsewhere> copies) {}

  /** One round for each store; returns true if there is more to be sent at once. */
  public synchronized boolean tick(ProjectRecord project) {
    List<StoreAddress> all = new Elsewhere(folders.history()).stores(project.id());
    links.keySet().stream()
        .filter(id -> all.stream().noneMatch(a -> a.id().equals(id)))
        .toList()
        .forEach(this::disconnect);
    boolean more = false;
    for (StoreAddress address : all) {
      more |= tick(project, address);
    }
    return more;
  }

  private boolean tick(ProjectRecord project, StoreAddress address) {
    Course course = course(address);
    Instant now = clock.instant();
    String rests = address.rests(now, ZoneId.of(project.zone()));
    if (rests != null) {
      course.problem = rests;
      return false;
    }
    boolean nothingNew =
        course.seen == folders.history().size()
            && Duration.between(course.looked, now).compareTo(LOOKED_EVERY) < 0;
    if (course.next.isAfter(now) || nothingNew) {
      return false;
    }
    try {
      return round(project, address, course);
    } catch (IOException | RuntimeException failed) {
      disconnect(address.id());
      course.problem = String.valueOf(failed.getMessage());
      course.next = clock.instant().plus(course.pause);
      Duration twice = course.pause.multipliedBy(2);
      course.pause = twice.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : twice;
      return false;
    } finally {
      course.sending = null;
    }
  }

  private boolean round(ProjectRecord project, StoreAddress address, Course course)
      throws IOException {
    OffsiteLink link = links.get(address.id());
    if (link == null || !link.address().equals(address)) {
      disconnect(address.id());
      link = connect(address);
      links.put(address.id(), link);
    }
    boolean more = link.round(project, backup -> course.sending = backup.path());
    course.answered = clock.instant();
    course.problem = null;
    course.pause = FIRST_PAUSE;
    course.looked = clock.instant();
    course.seen = more ? -1 : folders.history().size();
    return more;
  }

  private OffsiteLink connect(StoreAddress address) throws IOException {
    Store store = stores.open(address);
    try {
      return new OffsiteLink(disk, scrub, folders, address, store, clock);
    } catch (IOException | RuntimeException failed) {
      store.close();
      throw failed;
    }
  }

  private Course course(StoreAddress address) {
    return courses.computeIfAbsent(address.id(), id -> new Course());
  }

  private void disconnect(UUID store) {
    OffsiteLink link = links.remove(store);
    if (link != null) {
      link.close();
    }
  }

  /** How it stands with each store of the project, by what is known here. */
  public List<Standing> standing(ProjectRecord project) {
    return new Elsewhere(folders.history())
        .stores(project.id()).stream().map(address -> standing(project, address)).toList();
  }

  private Standing standing(ProjectRecord project, StoreAddress address) {
    Course course = course(address);
    OffsiteLink link = links.get(address.id());
    List<CopyElsewhere> copies =
        folders.history().documents(project.id()).stream()
            .map(DocumentSet::id)
            .flatMap(d -> new Elsewhere(folders.history()).copies(d).stream())
            .filter(c -> c.store().equals(address.id()))
            .toList();
    List<BackupRecord> waiting =
        link == null
            ? Outgoing.missing(
                project, address, folders.history(), folders.history(), clock.instant())
            : link.missing(project);
    return new Standing(address, course.problem, course.answered, course.sending, waiting, copies);
  }

  /**
   * What only stores have of a document, newest work first; of those that answered since the start.
   */
  public List<OnlyThere> onlyThere(UUID document) {
    return links.values().stream()
        .flatMap(link -> link.onlyThere(document).stream())
        .sorted(Comparator.comparing(OnlyThere::work).reversed())
        .toList();
  }

  /** Waits for nothing: what is on its way is found by the next start. */
  @Override
  public void close() {
    List.copyOf(links.keySet()).forEach(this::disconnect);
  }
}
