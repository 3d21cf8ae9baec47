package dev.kavrin.server.version;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Moments;
import dev.kavrin.server.project.DocumentRevisions;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;

/** States with what stands of them, for many documents in a handful of queries. */
@Component
class KnownVersions {
  /** What one looks at first to see a step. */
  private static final List<String> ROLES = List.of("RESULT", "RESTART", "SETUP");

  private static final int STATES_AT_HAND = 100_000;

  private final VersionRows.States states;
  private final VersionRows.StateEntries entries;
  private final VersionRows.Copies copies;
  private final ReadContents read;
  private final DocumentRevisions revisions;
  private final Cache<Long, Known> known =
      Caffeine.newBuilder()
          .maximumWeight(STATES_AT_HAND)
          .weigher((Long document, Known k) -> k.states().size() + 1)
          .softValues()
          .build();

  KnownVersions(
      VersionRows.States states,
      VersionRows.StateEntries entries,
      VersionRows.Copies copies,
      ReadContents read,
      DocumentRevisions revisions) {
    this.states = states;
    this.entries = entries;
    this.copies = copies;
    this.read = read;
    this.revisions = revisions;
  }

  private record Known(long revision, List<KnownVersion> states) {}

  /**
   * One file of a state.
   *
   * @param role null for the file of a document that is a single one
   * @param unit what keep rules call its content, null if no copy of it stands
   */
  record Member(
      @Nullable String role,
      String path,
      ReadContents.Facts content,
      @Nullable String unit,
      List<CopyRow> copies) {
    boolean stands() {
      return !copies.isEmpty();
    }
  }

  /** A state of which at least one copy stands anywhere. */
  record KnownVersion(VersionRow row, List<String> lacks, List<Member> members) {
    boolean isStep() {
      return row.run != null;
    }

    List<Member> standing() {
      return members.stream().filter(Member::stands).toList();
    }

    /**
     * Its standing files of a role, each by what it is called in the step: {@code restart}, or
     * {@code restart 3} where the step is split. A state that is a single file stands for a set-up.
     */
    Map<String, Member> standing(String role) {
      List<Member> files =
          standing().stream()
              .filter(m -> m.role() == null ? role.equals("SETUP") : m.role().equals(role))
              .sorted(Comparator.comparing(Member::path))
              .toList();
      String word = role.toLowerCase(Locale.ROOT);
      Map<String, Member> named = new LinkedHashMap<>();
      for (Member file : files) {
        named.put(files.size() == 1 ? word : word + " " + (named.size() + 1), file);
      }
      return named;
    }

    /** The most telling file first: results, restart files, the set-up. */
    Map<String, Member> named() {
      Map<String, Member> named = new LinkedHashMap<>();
      ROLES.forEach(role -> named.putAll(standing(role)));
      return named;
    }

    List<CopyRow> copies() {
      return members.stream().flatMap(m -> m.copies().stream()).distinct().toList();
    }

    List<CopyRow> ours() {
      return copies().stream().filter(c -> CopyKind.valueOf(c.sourceKind).isOurs()).toList();
    }

    /** True if a full copy of Kavrin's stands. */
    boolean isOurs() {
      return ours().stream().anyMatch(CopyRow::isFull);
    }

    long bytes() {
      return standing().stream().mapToLong(m -> m.content().length()).sum();
    }

    /** That of its worst file. */
    Verdict verdict() {
      return standing().stream()
          .map(m -> Verdict.valueOf(m.content().verdict()))
          .max(Comparator.naturalOrder())
          .orElse(Verdict.NOT_CHECKED);
    }

    /** True if all that belongs to it stands, as far as it was ever complete. */
    boolean isComplete() {
      return lacks.isEmpty() && members.stream().allMatch(Member::stands);
    }

    boolean isTrustworthy() {
      return verdict().trustworthy() && row.settled && isComplete();
    }

    boolean isLive() {
      return copies().stream().anyMatch(c -> c.sourceKind.equals(CopyKind.LIVE.name()));
    }

    boolean isElsewhere() {
      return copies().stream()
          .anyMatch(c -> c.isFull() && !c.sourceKind.equals(CopyKind.LIVE.name()));
    }

    Instant work() {
      return Moments.ofNanos(row.workHi);
    }

    /** What one looks at to see it: the result of a step, else its restart file, else the file. */
    Member shown() {
      return named().values().iterator().next();
    }
  }

  /** By document key, oldest work first; what did not change since the last look is at hand. */
  Map<Long, List<KnownVersion>> of(Collection<Long> documents) {
    Map<Long, Long> now = revisions.of(documents);
    Map<Long, List<KnownVersion>> found = new HashMap<>();
    List<Long> changed = new ArrayList<>();
    for (Map.Entry<Long, Long> document : now.entrySet()) {
      Known before = known.getIfPresent(document.getKey());
      if (before != null && before.revision() == document.getValue()) {
        if (!before.states().isEmpty()) {
          found.put(document.getKey(), before.states());
        }
      } else {
        changed.add(document.getKey());
      }
    }
    Map<Long, List<KnownVersion>> read = read(changed);
    for (Long document : changed) {
      List<KnownVersion> states = List.copyOf(read.getOrDefault(document, List.of()));
      known.put(document, new Known(now.get(document), states));
      if (!states.isEmpty()) {
        found.put(document, states);
      }
    }
    return found;
  }

  private Map<Long, List<KnownVersion>> read(Collection<Long> documents) {
    if (documents.isEmpty()) {
      return Map.of();
    }
    List<CopyRow> all = copies.findByDocumentIdInAndGoneIsNull(documents);
    Map<Long, List<CopyRow>> byState = all.stream().collect(Collectors.groupingBy(c -> c.stateId));
    List<VersionRow> rows = latest(states.findByDocumentIdIn(documents));
    Map<Long, List<VersionEntryRow>> parts = partsOf(rows);
    Map<Long, ReadContents.Facts> facts = facts(all, parts);
    all.forEach(c -> c.size = facts.get(c.contentId).length());
    Map<Long, String> units =
        rows.stream().collect(Collectors.toMap(s -> s.id, s -> s.manifestDigest));
    Map<Long, Map<Long, List<CopyRow>>> byContent =
        all.stream()
            .collect(
                Collectors.groupingBy(c -> c.documentId, Collectors.groupingBy(c -> c.contentId)));
    Map<Long, List<KnownVersion>> found = new HashMap<>();
    for (VersionRow row : rows) {
      List<Member> members = new ArrayList<>();
      if (row.run == null) {
        List<CopyRow> held =
            byState.getOrDefault(row.id, List.of()).stream()
                .sorted(Comparator.comparing(CopyRow::isFull).reversed())
                .toList();
        if (row.role == null && !held.isEmpty()) {
          members.add(
              new Member(null, "", facts.get(held.get(0).contentId), row.manifestDigest, held));
        }
      } else {
        for (VersionEntryRow part : parts.getOrDefault(row.id, List.of())) {
          List<CopyRow> held =
              byContent
                  .getOrDefault(row.documentId, Map.of())
                  .getOrDefault(part.contentId, List.of());
          String unit = held.isEmpty() ? null : units.get(held.get(0).stateId);
          members.add(new Member(part.role, part.relPath, facts.get(part.contentId), unit, held));
        }
      }
      KnownVersion state = new KnownVersion(row, lacks(row), members);
      boolean anything =
          state.isStep()
              ? state.standing().stream().anyMatch(m -> !"SETUP".equals(m.role()))
              : !members.isEmpty();
      if (anything) {
        found.computeIfAbsent(row.documentId, k -> new ArrayList<>()).add(state);
      }
    }
    found.values().forEach(l -> l.sort(ORDER));
    return found;
  }

  private static final Comparator<KnownVersion> ORDER =
      Comparator.comparingLong((KnownVersion h) -> h.row().at())
          .thenComparing(h -> h.row().manifestDigest);

  private Map<Long, List<VersionEntryRow>> partsOf(List<VersionRow> rows) {
    List<Long> steps = rows.stream().filter(s -> s.run != null).map(s -> s.id).toList();
    return steps.isEmpty()
        ? Map.of()
        : entries.findByStateIdIn(steps).stream().collect(Collectors.groupingBy(e -> e.stateId));
  }

  private Map<Long, ReadContents.Facts> facts(
      List<CopyRow> copies, Map<Long, List<VersionEntryRow>> parts) {
    List<Long> keys = new ArrayList<>();
    copies.forEach(c -> keys.add(c.contentId));
    parts.values().forEach(p -> p.forEach(e -> keys.add(e.contentId)));
    return read.facts(keys.stream().distinct().toList());
  }

  private static List<String> lacks(VersionRow row) {
    return row.lacks == null
        ? List.of()
        : VersionRecorder.MAPPER.readValue(row.lacks, new TypeReference<List<String>>() {});
  }

  /** A step that was taken again, with more of its files, is shown as it was taken last. */
  private static List<VersionRow> latest(List<VersionRow> rows) {
    Map<List<Object>, VersionRow> latest = new LinkedHashMap<>();
    for (VersionRow row : rows) {
      List<Object> key =
          row.run == null ? List.of(row.id) : List.of(row.documentId, row.run, row.step);
      latest.merge(key, row, (a, b) -> a.id > b.id ? a : b);
    }
    return List.copyOf(latest.values());
  }
}
