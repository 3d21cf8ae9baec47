package dev.kavrin.server.trail;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.trail.Manifest;
import dev.kavrin.core.units.Moments;
import dev.kavrin.core.units.Span;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Finds or makes the rows of a content and of a plain file's state. */
@Component
class StateRecorder {
  static final JsonMapper MAPPER = JsonMapper.shared();

  private final TrailRows.Contents contents;
  private final TrailRows.States states;
  private final TrailRows.StateEntries entries;

  StateRecorder(
      TrailRows.Contents contents, TrailRows.States states, TrailRows.StateEntries entries) {
    this.contents = contents;
    this.states = states;
    this.entries = entries;
  }

  ContentRow content(ContentId id, String ext) {
    return contents
        .findByLengthAndDigestAndExt(id.length(), id.digest(), ext)
        .orElseGet(
            () -> {
              contents.add(id.length(), id.digest(), ext);
              return contents
                  .findByLengthAndDigestAndExt(id.length(), id.digest(), ext)
                  .orElseThrow();
            });
  }

  void judge(ContentRow row, Verdict verdict) {
    if (row.verdict == null) {
      row.verdict = verdict.name();
      contents.save(row);
    }
  }

  void read(ContentRow row, HealthReport report) {
    row.verdict = report.verdict().name();
    row.findings = MAPPER.writeValueAsString(report.findings());
    row.inventory = MAPPER.writeValueAsString(report.inventory());
    contents.save(row);
  }

  /** The state of a plain file; its work time becomes the earliest told. */
  StateRow state(long document, ContentRow content, Span work) {
    ContentId id = ContentId.parse(content.length + "-" + content.digest);
    String digest = Manifest.ofFile(id).digest();
    long lo = Moments.nanos(work.lo());
    long hi = Moments.nanos(work.hi());
    if (states.findByDocumentIdAndManifestDigest(document, digest).isEmpty()
        && states.add(document, digest, lo, hi) == 1) {
      StateEntryRow entry = new StateEntryRow();
      entry.stateId = states.findByDocumentIdAndManifestDigest(document, digest).orElseThrow().id;
      entry.role = "main";
      entry.relPath = "";
      entry.contentId = content.id;
      entries.save(entry);
    }
    StateRow row = states.findByDocumentIdAndManifestDigest(document, digest).orElseThrow();
    if (hi < row.workHi) {
      row.workLo = Math.min(lo, row.workLo);
      row.workHi = hi;
      states.save(row);
    }
    return row;
  }
}
