package dev.kavrin.server.version;

import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.units.Moments;
import dev.kavrin.core.units.Span;
import dev.kavrin.server.backup.JournalListener;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Optional;
import java.util.UUID;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Copies, states, marks and activity, from the journals. */
@Component
@Order(2)
class VersionRecords implements JournalListener {
  private final ObjectProvider<ProjectService> projects;
  private final VersionRecorder recorder;
  private final VersionRows.Copies copies;
  private final VersionRows.Activities activities;
  private final VersionRows.Marks marks;
  private final VersionRows.Watchings watchings;
  private final InstantSource clock;

  VersionRecords(
      ObjectProvider<ProjectService> projects,
      VersionRecorder recorder,
      VersionRows.Copies copies,
      VersionRows.Activities activities,
      VersionRows.Marks marks,
      VersionRows.Watchings watchings,
      InstantSource clock) {
    this.projects = projects;
    this.recorder = recorder;
    this.copies = copies;
    this.activities = activities;
    this.marks = marks;
    this.watchings = watchings;
    this.clock = clock;
  }

  private Document document(UUID id) {
    return projects.getObject().document(id);
  }

  @Override
  public void apply(long recoveryPlace, JournalEntry entry) {
    if (entry instanceof JournalEntry.Done e) {
      done(recoveryPlace, e.operation().planned(), e.at());
    } else if (entry instanceof JournalEntry.SetTaken e) {
      recorder.step(document(e.document()).key(), e.set());
    } else if (entry instanceof JournalEntry.Judged e) {
      newest(
          recoveryPlace, e.path(), row -> row.fault = e.verdict().trustworthy() ? null : e.why());
    } else if (entry instanceof JournalEntry.Marked e) {
      marked(e);
    } else if (entry instanceof JournalEntry.Written e) {
      written(e);
    } else if (entry instanceof JournalEntry.LinksSeen e) {
      recorder.readAgainIfMissed(document(e.document()).key(), e.state());
    } else if (entry instanceof JournalEntry.Watching e) {
      watching(recoveryPlace, e);
    }
  }

  private void done(long folder, Operation.Planned planned, Instant at) {
    if (planned instanceof Operation.Backup p) {
      captured(folder, p.backup(), at);
    } else if (planned instanceof Operation.Drop p) {
      newest(
          folder,
          p.path(),
          row -> {
            row.gone = at;
            row.binPath = p.bin();
          });
    } else if (planned instanceof Operation.TakeBack p) {
      newest(
          folder,
          p.path(),
          row -> {
            row.gone = null;
            row.binPath = null;
          });
    }
  }

  private interface Change {
    void on(CopyRow row);
  }

  private void newest(long place, String path, Change change) {
    copies
        .findFirstByPlaceIdAndRelPathOrderByIdDesc(place, path)
        .ifPresent(
            row -> {
              change.on(row);
              copies.save(row);
            });
  }

  /**
   * True if a backup came anew under a name that had been free again. One that was found faulty or
   * gone where it stands is whole from then on; a line that is read twice changes nothing.
   */
  private boolean cameAgain(CopyRow before, Instant at) {
    if (before.gone == null) {
      before.fault = null;
      copies.save(before);
      return false;
    }
    return at.isAfter(before.gone);
  }

  private void captured(long place, BackupRecord c, Instant at) {
    Optional<CopyRow> before = copies.findFirstByPlaceIdAndRelPathOrderByIdDesc(place, c.path());
    if (before.isPresent() && !cameAgain(before.get(), at)) {
      return;
    }
    Document document = document(c.document());
    String named = c.role() == null ? document.path() : c.source();
    ContentRow content = recorder.content(c.content(), FileName.of(named).lowerExt());
    recorder.judge(content, c.verdict());
    VersionRow state =
        recorder.state(
            document.key(), content, c.state(), new Span(c.workFrom(), c.workTo()), c.role());
    CopyRow row = new CopyRow();
    row.uuid = Ids.next(clock.instant());
    row.documentId = document.key();
    row.stateId = state.id;
    row.contentId = content.id;
    row.placeId = place;
    row.relPath = c.path();
    row.sourceKind = c.kind().name();
    row.originKind = c.sourceKind().name();
    row.originPath = c.source();
    row.fidelity = c.isLight() ? "LIGHT" : "FULL";
    row.leftOut = c.isLight() ? VersionRecorder.MAPPER.writeValueAsString(c.leftOut()) : null;
    row.settled = c.settled();
    row.sequence = c.sequence();
    row.cause = c.cause();
    row.note = c.note();
    row.modified = Moments.nanos(c.workTo());
    row.since = at;
    copies.save(row);
  }

  private void marked(JournalEntry.Marked e) {
    long document = document(e.document()).key();
    var row = marks.findByDocumentIdAndManifestDigestAndMark(document, e.state(), e.mark());
    if (!e.on()) {
      row.ifPresent(marks::delete);
    } else if (row.isEmpty()) {
      MarkRow mark = new MarkRow();
      mark.documentId = document;
      mark.manifestDigest = e.state();
      mark.mark = e.mark();
      mark.who = e.who();
      mark.note = e.note();
      mark.made = e.at();
      marks.save(mark);
    }
  }

  private void written(JournalEntry.Written e) {
    long document = document(e.document()).key();
    long modified = Moments.nanos(e.modified());
    if (!activities.existsByDocumentIdAndModifiedAndSize(document, modified, e.size())) {
      ActivityRow row = new ActivityRow();
      row.documentId = document;
      row.modified = modified;
      row.noticed = e.at();
      row.size = e.size();
      activities.save(row);
    }
  }

  private void watching(long place, JournalEntry.Watching e) {
    WatchingRow row = watchings.findByPlaceIdAndSince(place, e.since()).orElseGet(WatchingRow::new);
    row.placeId = place;
    row.since = e.since();
    row.until = e.at();
    watchings.save(row);
  }
}
