package dev.kavrin.server.backup;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderRole;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.platform.Events;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Takes the journals of the recovery folders into the records: while running, after an outage, and
 * from nothing when the database was lost. The journal is the truth; where it does not fit what was
 * taken in before, nothing is dropped until a person has looked.
 */
@Component
public class JournalFollower {
  private static final Logger LOG = LoggerFactory.getLogger(JournalFollower.class);
  private static final int BATCH = 500;
  private static final int HEAD = 4096;

  private final Engine engine;
  private final CursorRows cursors;
  private final FolderService places;
  private final List<JournalListener> listeners;
  private final TransactionTemplate transaction;
  private final Events events;
  private boolean recordsAway;

  JournalFollower(
      Engine engine,
      CursorRows cursors,
      FolderService places,
      List<JournalListener> listeners,
      TransactionTemplate transaction,
      Events events) {
    this.engine = engine;
    this.cursors = cursors;
    this.places = places;
    this.listeners = listeners;
    this.transaction = transaction;
    this.events = events;
    engine.afterEachLook(this::follow);
  }

  /** Takes in what is new; called after each look, and at once when a person waits for it. */
  public synchronized void follow() {
    boolean any = false;
    for (BackupFolder folder : engine.folders()) {
      try {
        any |= followOne(folder);
        recordsAway = false;
      } catch (DataAccessException | TransactionException away) {
        if (!recordsAway) {
          LOG.warn("Records cannot be reached, copies go on: {}", away.getMessage());
        }
        recordsAway = true;
      } catch (IOException unreadable) {
        LOG.warn("Journal of {} cannot be read: {}", folder.root(), unreadable.getMessage());
      }
    }
    if (any) {
      events.changed("trail");
    }
  }

  private boolean followOne(BackupFolder folder) throws IOException {
    if (engine.disk().facts(folder.journal().file()).isEmpty()) {
      return false;
    }
    Folder place = places.ensure(folder.root(), FolderRole.RECOVERY);
    CursorRow cursor = cursors.findById(place.key()).orElse(null);
    long position = cursor == null ? 0 : cursor.position;
    if (cursor != null && disagrees(folder, cursor)) {
      return false;
    }
    Journal.Page page = folder.journal().readFrom(position);
    if (page.entries().isEmpty() && page.end() == position) {
      return false;
    }
    List<JournalEntry> entries = page.entries();
    String head = head(folder, page.end());
    for (int from = 0; from < entries.size(); from += BATCH) {
      List<JournalEntry> batch = entries.subList(from, Math.min(from + BATCH, entries.size()));
      boolean last = from + BATCH >= entries.size();
      transaction.executeWithoutResult(
          t -> {
            batch.forEach(e -> listeners.forEach(l -> l.apply(place.key(), e)));
            if (last) {
              save(place, page.end(), head);
            }
          });
    }
    return true;
  }

  private void save(Folder place, long position, String head) {
    CursorRow row = cursors.findById(place.key()).orElseGet(CursorRow::new);
    row.placeId = place.key();
    row.position = position;
    row.headDigest = head;
    cursors.save(row);
  }

  private boolean disagrees(BackupFolder folder, CursorRow cursor) throws IOException {
    Path file = folder.journal().file();
    long size =
        engine
            .disk()
            .facts(file)
            .orElseThrow(() -> new NoSuchFileException(file.toString()))
            .size();
    boolean shorter = size < cursor.position;
    boolean other = !shorter && !head(folder, cursor.position).equals(cursor.headDigest);
    boolean wrong = shorter || other;
    String words =
        wrong
            ? shorter
                ? "The journal is shorter than what was read of it before."
                : "The journal does not begin as it did before."
            : null;
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
    return ContentHash.of(java.util.Arrays.copyOf(buffer.array(), buffer.position())).digest();
  }

  /** Journals that do not fit the records, with the reason. */
  public List<String> disagreements() {
    List<String> found = new ArrayList<>();
    cursors.findAll().stream()
        .filter(c -> c.disagreement != null)
        .forEach(
            c ->
                found.add(
                    places.byKey(c.placeId).map(p -> p.path().toString()).orElse("?")
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
