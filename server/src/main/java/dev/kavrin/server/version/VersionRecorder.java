package dev.kavrin.server.version;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.units.Moments;
import dev.kavrin.core.units.Span;
import dev.kavrin.core.version.Manifest;
import dev.kavrin.core.version.SetRule.Role;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Finds or makes the rows of a content and of a plain file's state. */
@Component
class VersionRecorder {
  private static final Duration FIRST = Duration.ofMinutes(1);

  static final JsonMapper MAPPER = JsonMapper.shared();

  private final VersionRows.Contents contents;
  private final VersionRows.States states;
  private final VersionRows.StateEntries entries;

  VersionRecorder(
      VersionRows.Contents contents, VersionRows.States states, VersionRows.StateEntries entries) {
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
    row.checks = HealthCheck.EDITION;
    contents.save(row);
  }

  /** It could not be read for a reason that may pass: it is tried again, ever more rarely. */
  void readLater(ContentRow row, HealthReport report, Instant now) {
    row.findings = MAPPER.writeValueAsString(report.findings());
    later(row, now);
  }

  /** Likewise, and what was told of it stands meanwhile. */
  void later(ContentRow row, Instant now) {
    row.tries++;
    row.retryAt = now.plus(FIRST.multipliedBy(1L << Math.min(row.tries - 1, 10)));
    contents.save(row);
  }

  /** A state that was read before what it leans on was there is read once more. */
  void readAgainIfMissed(long document, String digest) {
    states.findByDocumentIdAndManifestDigest(document, digest).stream()
        .flatMap(state -> entries.findByStateIdIn(List.of(state.id)).stream())
        .flatMap(entry -> contents.findById(entry.contentId).stream())
        .filter(content -> content.inventory != null && lacksParts(content.inventory))
        .forEach(
            content -> {
              content.inventory = null;
              contents.save(content);
            });
  }

  private static boolean lacksParts(String inventory) {
    return !MAPPER.readValue(inventory, Inventory.class).parts().stream().allMatch(Part::readable);
  }

  /** The state of a plain file; its work time becomes the earliest told. */
  VersionRow state(long document, ContentRow content, Span work) {
    return state(document, content, Manifest.ofFile(id(content)).digest(), work, null);
  }

  /** The same under a given digest, for a file that is only part of a step if it has a role. */
  VersionRow state(
      long document, ContentRow content, String digest, Span work, @Nullable Role role) {
    long lo = Moments.nanos(work.lo());
    long hi = Moments.nanos(work.hi());
    boolean added =
        states.findByDocumentIdAndManifestDigest(document, digest).isEmpty()
            && states.add(document, digest, lo, hi) == 1;
    VersionRow row = states.findByDocumentIdAndManifestDigest(document, digest).orElseThrow();
    if (added) {
      row.role = role == null ? null : role.name();
      entry(row.id, "main", "", content.id);
    }
    if (added || hi < row.workHi) {
      row.workLo = Math.min(lo, row.workLo);
      row.workHi = hi;
      states.save(row);
    }
    return row;
  }

  /** A step of a run with all its files. */
  void step(long document, SetRecord set) {
    long written = Moments.nanos(set.written());
    boolean added = states.add(document, set.state(), written, written) == 1;
    VersionRow row = states.findByDocumentIdAndManifestDigest(document, set.state()).orElseThrow();
    row.run = set.run();
    row.step = set.step();
    row.settled = set.settled();
    row.lacks = MAPPER.writeValueAsString(set.lacks());
    states.save(row);
    for (SetRecord.Member member : added ? set.members() : List.<SetRecord.Member>of()) {
      ContentRow content = content(member.content(), FileName.of(member.path()).lowerExt());
      entry(row.id, member.role().name(), member.path(), content.id);
    }
  }

  private void entry(long state, String role, String path, long content) {
    VersionEntryRow entry = new VersionEntryRow();
    entry.stateId = state;
    entry.role = role;
    entry.relPath = path;
    entry.contentId = content;
    entries.save(entry);
  }

  private static ContentId id(ContentRow content) {
    return ContentId.parse(content.length + "-" + content.digest);
  }
}
