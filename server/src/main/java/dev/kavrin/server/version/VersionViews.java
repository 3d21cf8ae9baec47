package dev.kavrin.server.version;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Moments;
import dev.kavrin.core.version.Evidence;
import dev.kavrin.core.version.SetRule.Role;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.version.KnownVersions.KnownVersion;
import dev.kavrin.server.version.KnownVersions.Member;
import dev.kavrin.server.version.VersionsView.CopyView;
import dev.kavrin.server.version.VersionsView.StateView;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;

/** States put into words for the screens, kept at hand while nothing they are made from changes. */
@Component
class VersionViews {
  private static final int STATES_AT_HAND = 100_000;

  private final VersionRows.Marks marks;
  private final InstantSource clock;
  private final Cache<Long, Shown> shown =
      Caffeine.newBuilder()
          .maximumWeight(STATES_AT_HAND)
          .weigher((Long document, Shown s) -> s.views().size() + 1)
          .softValues()
          .build();

  VersionViews(VersionRows.Marks marks, InstantSource clock) {
    this.marks = marks;
    this.clock = clock;
  }

  /**
   * What views are made from.
   *
   * @param journal how much the journal says
   * @param minute in which reasons to stay were worked out
   */
  private record From(
      List<KnownVersion> held,
      Map<Long, Path> roots,
      Map<String, List<VersionsView.Mark>> marked,
      Optional<Kept> kept,
      long journal,
      Instant minute) {
    boolean isAs(From other) {
      return held == other.held
          && roots.equals(other.roots)
          && marked.equals(other.marked)
          && kept.equals(other.kept)
          && journal == other.journal
          && minute.equals(other.minute);
    }
  }

  private record Shown(From from, List<StateView> views) {}

  private record Told(
      Map<Long, Path> roots,
      Map<String, List<VersionsView.Mark>> marked,
      Map<String, String> reasons,
      Map<String, List<JournalEntry.Leaned>> leaned,
      Predicate<Path> compacted) {}

  /** Newest work first. */
  List<StateView> of(
      Document document, List<KnownVersion> held, Optional<Kept> kept, Map<Long, Path> roots) {
    From from =
        new From(
            held,
            roots,
            marked(document),
            kept,
            kept.map(k -> k.folder().history().size()).orElse(0L),
            clock.instant().truncatedTo(ChronoUnit.MINUTES));
    Shown before = shown.getIfPresent(document.key());
    if (before != null && before.from().isAs(from)) {
      return before.views();
    }
    Told told =
        new Told(
            roots,
            from.marked(),
            kept.map(k -> k.retention().decide(k.project(), document.id()))
                .map(KeepDecision::kept)
                .orElse(Map.of()),
            kept.map(k -> k.folder().history().leansOn(document.id())).orElse(Map.of()),
            file -> kept.filter(k -> isCompacted(k, file)).isPresent());
    List<StateView> views = views(held, told);
    shown.put(document.key(), new Shown(from, views));
    return views;
  }

  private Map<String, List<VersionsView.Mark>> marked(Document document) {
    Map<String, List<VersionsView.Mark>> marked = new HashMap<>();
    marks
        .findByDocumentId(document.key())
        .forEach(
            m ->
                marked
                    .computeIfAbsent(m.manifestDigest, k -> new ArrayList<>())
                    .add(new VersionsView.Mark(m.mark, m.who, m.note, m.made)));
    return marked;
  }

  private static List<StateView> views(List<KnownVersion> held, Told told) {
    List<StateView> views = new ArrayList<>();
    StateView plain = null;
    StateView step = null;
    for (KnownVersion state : held) {
      StateView view = view(state, told, state.isStep() ? step : plain);
      views.add(view);
      step = state.isStep() ? view : step;
      plain = state.isStep() ? plain : view;
    }
    Collections.reverse(views);
    return List.copyOf(views);
  }

  private static StateView view(KnownVersion state, Told told, @Nullable StateView before) {
    ReadContents.Facts content = state.shown().content();
    Long parts = content.parts();
    return new StateView(
        state.row().manifestDigest,
        content.id(),
        Moments.ofNanos(state.row().workLo),
        state.work(),
        state.bytes(),
        before == null ? null : state.bytes() - before.size(),
        state.verdict().name(),
        state.standing().stream().flatMap(m -> m.content().findings().stream()).toList(),
        parts,
        content.partsTotal(),
        parts == null || before == null || before.parts() == null ? null : parts - before.parts(),
        content.labels(),
        content.links(),
        leaned(state, told.leaned()),
        state.members().stream()
            .flatMap(m -> m.copies().stream().map(c -> view(c, m.role(), told)))
            .sorted(Comparator.comparing(c -> CopyKind.valueOf(c.kind())))
            .toList(),
        told.marked().getOrDefault(state.row().manifestDigest, List.of()),
        kept(state, told.reasons()),
        state.isStep() ? step(state) : null,
        state.row().toldBy == null ? null : Evidence.Kind.valueOf(state.row().toldBy).words(),
        state.row().contradictions == null
            ? List.of()
            : VersionRecorder.MAPPER.readValue(
                state.row().contradictions, new TypeReference<List<String>>() {}),
        state.row().orderKnown);
  }

  private static List<VersionsView.Leaned> leaned(
      KnownVersion state, Map<String, List<JournalEntry.Leaned>> leaned) {
    List<JournalEntry.Leaned> seen = leaned.getOrDefault(state.row().manifestDigest, List.of());
    return seen.isEmpty()
        ? state.shown().content().links().stream()
            .map(uri -> new VersionsView.Leaned(uri, null))
            .toList()
        : seen.stream().map(l -> new VersionsView.Leaned(l.path(), l.content() != null)).toList();
  }

  private static VersionsView.Step step(KnownVersion state) {
    List<String> lacks = new ArrayList<>(state.lacks());
    state.members().stream()
        .filter(m -> !m.stands())
        .forEach(m -> lacks.add("its " + words(m) + " is no longer kept"));
    return new VersionsView.Step(
        state.row().run,
        state.row().step,
        lacks,
        state.row().settled,
        state.members().stream()
            .map(
                m ->
                    new VersionsView.StepFile(
                        m.role(),
                        m.path(),
                        m.content().length(),
                        m.content().verdict(),
                        m.stands()))
            .toList());
  }

  private static String words(Member member) {
    return Role.valueOf(member.role()).words();
  }

  /** Of a step each file has a reason of its own to stay. */
  private static String kept(KnownVersion state, Map<String, String> reasons) {
    return state.standing().stream()
        .filter(m -> m.unit() != null && reasons.containsKey(m.unit()))
        .filter(m -> !"SETUP".equals(m.role()))
        .map(m -> reasons.get(m.unit()))
        .distinct()
        .collect(Collectors.joining(", "));
  }

  private static boolean isCompacted(Kept kept, Path file) {
    return kept.folders().all().stream()
        .anyMatch(f -> file.startsWith(f.root()) && f.history().isCompacted(f.relative(file)));
  }

  private static CopyView view(CopyRow c, @Nullable String role, Told told) {
    Path file = told.roots().get(c.placeId).resolve(c.relPath);
    return new CopyView(
        c.uuid,
        role,
        c.size,
        c.isFull()
            ? List.of()
            : VersionRecorder.MAPPER.readValue(c.leftOut, new TypeReference<List<String>>() {}),
        c.sourceKind,
        c.originKind,
        file.toString(),
        c.originPath,
        c.sequence,
        c.cause,
        c.note,
        c.settled,
        told.compacted().test(file),
        c.fault,
        Moments.ofNanos(c.modified),
        c.since);
  }
}
