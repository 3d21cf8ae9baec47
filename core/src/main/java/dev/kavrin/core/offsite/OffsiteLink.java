package dev.kavrin.core.offsite;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PacedInput;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.keep.BinLimit;
import dev.kavrin.core.lane.Several;
import dev.kavrin.core.retention.Scrub;
import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;

/**
 * One project and one store, connected. What arrived counts only once it is known to be what was
 * sent and the store's own journal tells of it; a stop anywhere leaves an object that the next
 * round finds.
 */
final class OffsiteLink implements AutoCloseable {
  /** Sent in one go, before what else is to be done there. */
  private static final long HELPING = 256_000_000;

  private static final int HELPING_COPIES = 200;

  /** The journal there lacks what is newer while nothing is sent. */
  private static final Duration TENDED_EVERY = Duration.ofMinutes(10);

  /** Read back in one go, of what was read long ago. */
  private static final int READ_AGAIN = 20;

  private static final Duration REFUSED_AGAIN = Duration.ofDays(1);
  private static final Duration FAILED_AGAIN = Duration.ofMinutes(10);

  private final Scrub scrub;
  private final BackupFolders folders;
  private final StoreAddress address;
  private final Clockwork clock;
  private final Store store;
  private final String begin;
  private final OffsiteJournal journal;
  private final Shipment shipment;
  private final Map<String, Instant> notBefore = new ConcurrentHashMap<>();
  private Instant tended = Instant.EPOCH;

  /**
   * @param store connected, and closed with the link
   * @throws IOException it cannot be read, or is another than it was
   */
  OffsiteLink(
      Disk disk,
      Scrub scrub,
      BackupFolders folders,
      StoreAddress address,
      Store store,
      Clockwork clock)
      throws IOException {
    this.scrub = scrub;
    this.folders = folders;
    this.address = address;
    this.clock = clock;
    this.store = store;
    this.begin = address.begin();
    requireStore();
    this.journal = OffsiteJournal.read(store, begin);
    long rate = address.bytesPerSecond();
    this.shipment =
        new Shipment(
            disk, store, begin, Shipment.pace(rate == 0 ? null : new PacedInput.Pace(rate, clock)));
  }

  StoreAddress address() {
    return address;
  }

  /**
   * @throws IOException it is away, or another than it was
   */
  private void requireStore() throws IOException {
    if (StoreMark.read(store).filter(m -> m.id().equals(address.id())).isEmpty()) {
      throw new IOException(
          address.address() + " is not there, or is another store than it was. Nothing was sent");
    }
  }

  /** What waits to be sent. */
  List<BackupRecord> missing(ProjectRecord project) {
    return Outgoing.missing(project, address, here(), journal.history(), clock.instant());
  }

  private History here() {
    return folders.history();
  }

  List<OnlyThere> onlyThere(UUID document) {
    return OnlyThere.of(address, folders, journal.history(), document);
  }

  /**
   * Sends a helping, tells the journal there, reads one copy again, lets go what no rule keeps.
   *
   * @return true if there is more to be sent
   */
  boolean round(ProjectRecord project, Progress progress) throws IOException {
    requireStore();
    List<BackupRecord> missing = missing(project).stream().filter(b -> isDue(b.path())).toList();
    List<BackupRecord> helping = helping(missing);
    List<JournalEntry> arrived = Collections.synchronizedList(new ArrayList<>());
    try {
      Several.each(
          store.atOnce(),
          helping,
          backup -> {
            progress.sending(backup);
            send(backup).ifPresent(arrived::addAll);
          });
    } finally {
      if (!arrived.isEmpty()) {
        tell(project, arrived);
      }
    }
    if (Duration.between(tended, clock.instant()).abs().compareTo(TENDED_EVERY) >= 0) {
      tell(project, new Untold(folders, address.id(), journal.history(), clock).toTell(project));
      readAgain(project);
      letGo(project);
      tended = clock.instant();
    }
    return helping.size() < missing.size();
  }

  /** Told of what is sent. */
  interface Progress {
    void sending(BackupRecord backup);
  }

  private boolean isDue(String thing) {
    return !notBefore.getOrDefault(thing, Instant.MIN).isAfter(clock.instant());
  }

  private static List<BackupRecord> helping(List<BackupRecord> missing) {
    List<BackupRecord> helping = new ArrayList<>();
    long bytes = 0;
    for (BackupRecord backup : missing) {
      if (bytes > HELPING || helping.size() >= HELPING_COPIES) {
        break;
      }
      helping.add(backup);
      bytes += backup.content().length();
    }
    return helping;
  }

  /** Empty if the file here cannot be read or has rotted, which is noted. */
  private Optional<List<JournalEntry>> send(BackupRecord backup) throws IOException {
    BackupFolder from = folders.first();
    Path file = from.absolute(backup.path());
    if (address.isFolder()) {
      requireStore();
    }
    try {
      Shipment.Arrived there = shipment.send(file, backup, object(backup));
      Instant now = clock.instant();
      Operation made = Operation.of(new Operation.Backup(backup.at(there.object())));
      return Optional.of(
          List.of(
              new JournalEntry.Done(now, made),
              CopyElsewhere.arrived(now, address.id(), there.object(), backup, there.sha256())));
    } catch (Shipment.NotWholeException rotten) {
      notBefore.put(backup.path(), clock.instant().plus(FAILED_AGAIN));
      scrub.isWhole(from, backup, "Read to send it elsewhere: it is not what was written.");
      return Optional.empty();
    }
  }

  /** As it lies in the backup folder, without the name the project has there. */
  static String object(BackupRecord backup) {
    Path path = Path.of(backup.path());
    return "files/" + path.subpath(1, path.getNameCount());
  }

  /** First the journal there, then the one here: what counts here can be found there. */
  private void tell(ProjectRecord project, List<JournalEntry> arrived) throws IOException {
    List<JournalEntry> news = new ArrayList<>(here().facts(project.id()));
    news.removeIf(fact -> !journal.history().isNews(fact));
    news.addAll(arrived);
    journal.append(news);
    List<CopyElsewhere> copies =
        arrived.stream()
            .filter(CopyElsewhere.class::isInstance)
            .map(CopyElsewhere.class::cast)
            .toList();
    if (!copies.isEmpty()) {
      folders.record(copies);
    }
  }

  private List<CopyElsewhere> copies(UUID document) {
    return new Elsewhere(here())
        .copies(document).stream().filter(c -> c.store().equals(address.id())).toList();
  }

  private void readAgain(ProjectRecord project) throws IOException {
    Instant before = clock.instant().minus(address.readEvery());
    List<CopyElsewhere> oldest =
        here().documents(project.id()).stream()
            .flatMap(d -> copies(d.id()).stream())
            .filter(c -> c.counts() && c.verified().isBefore(before))
            .sorted(Comparator.comparing(CopyElsewhere::verified))
            .limit(READ_AGAIN)
            .toList();
    for (CopyElsewhere copy : oldest) {
      check(copy);
    }
  }

  /** Reads a copy back; true if it is what was sent. Either is written down. */
  boolean check(CopyElsewhere copy) throws IOException {
    boolean whole = shipment.holds(begin + copy.object(), copy.sha256());
    Instant now = clock.instant();
    folders.record(
        whole
            ? copy.readAgain(now)
            : copy.faulty(now, "Read back: it is gone, or is not what was sent."));
    return whole;
  }

  private void letGo(ProjectRecord project) throws IOException {
    if (folders.all().stream().anyMatch(f -> f.dropsPaused().get())) {
      return;
    }
    List<JournalEntry> deleted = new ArrayList<>();
    for (DocumentSet document : here().documents(project.id())) {
      List<CopyElsewhere> copies = copies(document.id());
      if (copies.isEmpty()) {
        continue;
      }
      Set<String> going =
          Outgoing.going(project, address, document.id(), journal.history(), clock.instant());
      for (CopyElsewhere copy : copies) {
        letGo(copy, going.contains(copy.state())).ifPresent(deleted::addAll);
      }
    }
    journal.append(deleted);
  }

  /** The lines for the journal there, if it was deleted. */
  private Optional<List<JournalEntry>> letGo(CopyElsewhere copy, boolean goes) throws IOException {
    Instant now = clock.instant();
    if (goes != (copy.leaving() != null)) {
      folders.record(copy.leaving(now, goes ? now : null));
      return Optional.empty();
    }
    boolean over = goes && copy.leaving().plus(BinLimit.TIME).isBefore(now);
    if (!over || !isDue(copy.object())) {
      return Optional.empty();
    }
    try {
      store.delete(begin + copy.object());
    } catch (Store.RefusedException locked) {
      notBefore.put(copy.object(), now.plus(REFUSED_AGAIN));
      folders.record(copy.refused(now, locked.getMessage()));
      return Optional.empty();
    }
    folders.record(copy.deleted(now));
    String bin = ".kavrin/bin/" + UUID.randomUUID();
    return Optional.of(
        List.of(
            new JournalEntry.Done(
                now, Operation.of(new Operation.Drop(copy.object(), bin, Operation.Drop.BY_PLAN))),
            new JournalEntry.Done(now, Operation.of(new Operation.Purge(bin))),
            copy.deleted(now)));
  }

  @Override
  public void close() {
    store.close();
  }
}
