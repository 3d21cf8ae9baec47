package dev.kavrin.server.project;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.Ids;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Copies everything that is open as one moment with one record. */
@Service
class Together {
  private final Engine engine;
  private final JournalFollower follower;
  private final InstantSource clock;

  Together(Engine engine, JournalFollower follower, InstantSource clock) {
    this.engine = engine;
    this.follower = follower;
    this.clock = clock;
  }

  /**
   * What came of one document.
   *
   * @param state null if no copy could be made
   * @param made false if the same bytes were held already
   * @param problem why no copy could be made, else null
   */
  record Copied(
      UUID document, String path, @Nullable String state, boolean made, @Nullable String problem) {}

  /** Open is what a running program may hold, or what was written within the time. */
  List<Copied> copyOpen(Duration within, String note, String who) throws IOException {
    Instant since = clock.instant().minus(within);
    UUID moment = Ids.next(clock.instant());
    List<Copied> all = new ArrayList<>();
    for (Kept kept : engine.projects()) {
      List<Copied> copied = new ArrayList<>();
      for (Watch.Status document : kept.watch().status()) {
        boolean recent = document.present() && !document.modified().isBefore(since);
        boolean open = kept.open(document.document()).mayHoldWork();
        if (document.present() && (open || recent)) {
          copied.add(copy(kept, document.document(), note));
        }
      }
      record(kept, moment, who, note, copied);
      all.addAll(copied);
    }
    follower.follow();
    return all;
  }

  private static Copied copy(Kept kept, UUID document, String note) {
    String path = kept.watch().path(document);
    try {
      BackupMaker.Result result = kept.watch().copyNow(document, "moment", note);
      return new Copied(document, path, result.capture().state(), result.made(), null);
    } catch (IOException failed) {
      return new Copied(document, path, null, false, failed.getMessage());
    }
  }

  private void record(Kept kept, UUID moment, String who, String note, List<Copied> copied)
      throws IOException {
    List<JournalEntry.AtMoment> held =
        copied.stream()
            .filter(c -> c.state() != null)
            .map(c -> new JournalEntry.AtMoment(c.document(), c.state()))
            .toList();
    if (!held.isEmpty()) {
      kept.folders()
          .record(
              new JournalEntry.Moment(
                  clock.instant(), moment, kept.project().id(), who, note, held));
    }
  }
}
