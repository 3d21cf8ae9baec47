package dev.kavrin.server.backup;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.Fact;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderRole;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.RecordsSource;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.TransientDataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Takes the journals of the backup folders into the records: while running, after an outage, and
 * from nothing when the database was lost; on a thread and a connection of its own, so that a
 * database that hangs holds up nothing else. The journal is the truth; where it does not fit what
 * was taken in before, nothing is dropped until a person has looked.
 */
@Component
public class JournalFollower implements DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(JournalFollower.class);
  private static final int BATCH = 500;
  private static final int HEAD = 4096;
  private static final Duration PAUSE = Duration.ofMillis(500);

  /** A person who changed something waits no longer than this for the records to show it. */
  private static final Duration PATIENCE = Duration.ofSeconds(10);

  private final Engine engine;
  private final CursorRows cursors;
  private final FolderService places;
  private final List<JournalListener> listeners;
  private final TransactionTemplate transaction;
  private final RecordsSource records;
  private final Events events;
  private final InstantSource clock;
  private final Map<UUID, String> unreadable = new ConcurrentHashMap<>();
  private final Map<UUID, Followed> known = new HashMap<>();
  private final Turns turns = new Turns();
  private final Thread following = new Thread(this::goOn, "records");
  private volatile boolean recordsAway;
  private volatile Instant lastWell;

  /** How a journal stood when it was taken in; by the one thread that does so. */
  private record Followed(long place, FileFacts journal) {}

  JournalFollower(
      Engine engine,
      CursorRows cursors,
      FolderService places,
      List<JournalListener> listeners,
      TransactionTemplate transaction,
      RecordsSource records,
      Events events,
      InstantSource clock) {
    this.engine = engine;
    this.cursors = cursors;
    this.places = places;
    this.listeners = listeners;
    this.transaction = transaction;
    this.records = records;
    this.events = events;
    this.clock = clock;
    this.lastWell = clock.instant();
    engine.onRecord(entry -> turns.wake());
    following.setDaemon(true);
    following.start();
  }

  private void goOn() {
    while (turns.next(PAUSE)) {
      try {
        records.asProjection(this::followAll);
      } catch (RuntimeException | Error failed) {
        LOG.error("Taking journals into the records failed", failed);
      } finally {
        turns.done();
      }
    }
  }

  @Override
  public void destroy() throws InterruptedException {
    turns.end();
    following.join(PATIENCE.toMillis());
  }

  /**
   * Takes in what is new, and waits until that is done, or a while; the records may be away.
   *
   * @return false if it is not done yet
   */
  public boolean follow() {
    return turns.waitForOne(PATIENCE) && !recordsAway;
  }

  /** When the records last took in what there was. */
  public Instant lastWell() {
    return lastWell;
  }

  private void followAll() {
    boolean away = false;
    Set<Long> followed = Set.of();
    try {
      followed = cursors.findAll().stream().map(c -> c.placeId).collect(Collectors.toSet());
    } catch (DataAccessException | TransactionException failed) {
      away = true;
      tellAway(failed);
    }
    for (BackupFolder folder : away ? List.<BackupFolder>of() : engine.folders()) {
      try {
        followOne(folder, followed);
        unreadable.remove(folder.uuid());
      } catch (DataAccessException | TransactionException failed) {
        away = true;
        tellAway(failed);
        break;
      } catch (IOException failed) {
        tell(folder, failed, null);
      } catch (RuntimeException | Error unexpected) {
        tell(folder, unexpected, unexpected);
      }
    }
    if (!away) {
      lastWell = clock.instant();
    }
    recordsAway = away;
  }

  private void tellAway(RuntimeException failed) {
    if (!recordsAway) {
      LOG.warn("Records cannot be reached, copies go on: {}", failed.getMessage());
    }
  }

  private void tell(BackupFolder folder, Throwable failed, @Nullable Throwable trace) {
    String words = String.valueOf(failed.getMessage());
    if (!words.equals(unreadable.put(folder.uuid(), words))) {
      LOG.warn("Journal of {} cannot be taken in: {}", folder.root(), words, trace);
    }
  }

  /**
   * @param followed keys of the folders of which something was taken in; a journal that stands as
   *     it did then has nothing new
   */
  private void followOne(BackupFolder folder, Set<Long> followed) throws IOException {
    Optional<FileFacts> journal = engine.disk().facts(folder.journal().file());
    Followed before = known.get(folder.uuid());
    boolean same =
        before != null
            && followed.contains(before.place())
            && journal.filter(before.journal()::sameAs).isPresent();
    if (journal.isEmpty() || same) {
      return;
    }
    Folder place = places.known(folder.root(), folder.uuid(), FolderRole.RECOVERY);
    takeIn(folder, place, journal.get().size());
    known.put(folder.uuid(), new Followed(place.key(), journal.get()));
  }

  private void takeIn(BackupFolder folder, Folder place, long size) throws IOException {
    CursorRow cursor = cursors.findById(place.key()).orElse(null);
    long position = cursor == null ? 0 : cursor.position;
    if (cursor != null && disagrees(folder, cursor, size)) {
      return;
    }
    Journal.Page page = folder.journal().readFrom(position);
    if (page.entries().isEmpty() && page.end() == position) {
      return;
    }
    page.entries().forEach(e -> listeners.forEach(l -> l.before(e)));
    String head = head(folder, page.end());
    for (int from = 0; from < page.entries().size(); from += BATCH) {
      takeIn(
          folder,
          place,
          page.entries().subList(from, Math.min(from + BATCH, page.entries().size())));
    }
    transaction.executeWithoutResult(t -> save(place, page.end(), head));
    page.entries().forEach(this::tell);
  }

  private void tell(JournalEntry entry) {
    if (entry instanceof JournalEntry.ProjectSet e) {
      events.project(e.project().id());
    } else if (entry instanceof Fact.OfProject e) {
      events.project(e.project());
    }
  }

  /**
   * All at once; where one of them does not fit the records, one by one without that one. What may
   * pass, such as a deadlock, says nothing of a line: all are taken in at the next turn.
   */
  private void takeIn(BackupFolder folder, Folder place, List<JournalEntry> batch) {
    try {
      transaction.executeWithoutResult(t -> batch.forEach(e -> apply(place, e)));
    } catch (TransientDataAccessException passing) {
      throw passing;
    } catch (RuntimeException failed) {
      records.requireAnswer();
      if (batch.size() == 1) {
        LOG.error("A line of the journal of {} was passed over: {}", folder.root(), batch, failed);
        return;
      }
      batch.forEach(e -> takeIn(folder, place, List.of(e)));
    }
  }

  private void apply(Folder place, JournalEntry entry) {
    listeners.forEach(l -> l.apply(place.key(), entry));
  }

  private void save(Folder place, long position, String head) {
    CursorRow row = cursors.findById(place.key()).orElseGet(CursorRow::new);
    row.placeId = place.key();
    row.position = position;
    row.headDigest = head;
    cursors.save(row);
  }

  private boolean disagrees(BackupFolder folder, CursorRow cursor, long size) throws IOException {
    boolean shorter = size < cursor.position;
    boolean wrong = shorter || !head(folder, cursor.position).equals(cursor.headDigest);
    String words =
        shorter
            ? "The journal is shorter than what was read of it before."
            : "The journal does not begin as it did before.";
    if (wrong && cursor.disagreement == null) {
      LOG.warn("{}: {} Nothing is dropped until a person has looked", folder.root(), words);
      cursor.disagreement = words;
      cursors.save(cursor);
    }
    folder.dropsPaused().set(wrong);
    return wrong;
  }

  private String head(BackupFolder folder, long upTo) throws IOException {
    int count = (int) Math.min(HEAD, upTo);
    ByteBuffer buffer = ByteBuffer.allocate(count);
    try (SeekableByteChannel in = engine.disk().read(folder.journal().file())) {
      while (buffer.hasRemaining() && in.read(buffer) >= 0) {}
    }
    return ContentHash.of(Arrays.copyOf(buffer.array(), buffer.position())).digest();
  }

  /** Journals that do not fit the records, with the reason. */
  public List<String> disagreements() {
    List<String> found = new ArrayList<>();
    cursors.findAll().stream()
        .filter(c -> c.disagreement != null)
        .forEach(
            c ->
                found.add(
                    places.byKey(c.placeId).map(Folder::path).map(Path::toString).orElse("?")
                        + ": "
                        + c.disagreement));
    return found;
  }

  /** A person has looked: the journal as it is now is taken in from its beginning. */
  public void acceptJournals() {
    transaction.executeWithoutResult(
        t ->
            cursors.findAll().stream()
                .filter(c -> c.disagreement != null)
                .forEach(cursors::delete));
    follow();
  }
}
