package dev.kavrin.server.trail;

import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.core.store.Chain;
import dev.kavrin.core.store.JournalEntry;
import dev.kavrin.core.trail.CopyKind;
import dev.kavrin.core.trail.Evidence;
import dev.kavrin.core.trail.SetRule.Role;
import dev.kavrin.core.units.Moments;
import dev.kavrin.server.capture.Engine;
import dev.kavrin.server.capture.JournalFollower;
import dev.kavrin.server.capture.Kept;
import dev.kavrin.server.place.PlaceService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.trail.HeldStates.Held;
import dev.kavrin.server.trail.HeldStates.Member;
import dev.kavrin.server.trail.TrailView.CopyView;
import dev.kavrin.server.trail.TrailView.StateView;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;

/** Puts a document's trail together. */
@Service
public class TrailService {
  private static final List<String> ROLES = List.of("RESULT", "RESTART", "SETUP");

  private final ProjectService projects;
  private final PlaceService places;
  private final Engine engine;
  private final JournalFollower follower;
  private final Finder finder;
  private final TrailRows.Contents contents;
  private final HeldStates states;
  private final ReadContents read;
  private final Summaries summaries;
  private final TrailRows.Copies copies;
  private final TrailRows.Activities activities;
  private final TrailRows.Marks marks;
  private final TrailRows.Watchings watchings;
  private final InstantSource clock;

  TrailService(
      ProjectService projects,
      PlaceService places,
      Engine engine,
      JournalFollower follower,
      Finder finder,
      TrailRows.Contents contents,
      HeldStates states,
      ReadContents read,
      Summaries summaries,
      TrailRows.Copies copies,
      TrailRows.Activities activities,
      TrailRows.Marks marks,
      TrailRows.Watchings watchings,
      InstantSource clock) {
    this.projects = projects;
    this.places = places;
    this.engine = engine;
    this.follower = follower;
    this.finder = finder;
    this.contents = contents;
    this.states = states;
    this.read = read;
    this.summaries = summaries;
    this.copies = copies;
    this.activities = activities;
    this.marks = marks;
    this.watchings = watchings;
    this.clock = clock;
  }

  /** Looks at the places now, then tells. */
  public void look(UUID document) {
    follower.follow();
    finder.look(projects.document(document));
  }

  @Transactional(readOnly = true)
  public TrailView trail(UUID id) {
    Document document = projects.document(id);
    ProjectService.Project project = projects.byId(document.project());
    Optional<Kept> kept = engine.project(document.project());
    Map<Long, Path> roots =
        places.all().stream().collect(Collectors.toMap(p -> p.key(), p -> p.path()));
    Map<Long, List<Held>> held = states.of(List.of(document.key()));
    List<StateView> views =
        stateViews(document, held.getOrDefault(document.key(), List.of()), kept, roots);
    Summaries.Summary summary = summaries.of(project, List.of(document), held).get(id);
    return new TrailView(
        id,
        document.project(),
        project.name(),
        document.path(),
        document.live().toString(),
        views,
        activity(document, views),
        watched(project.recovery(), roots),
        bin(document, roots),
        finder.lookedAt(id).stream()
            .map(l -> new TrailView.Place(l.folder(), l.files(), l.reachable()))
            .toList(),
        summary.exposure(),
        summary.live(),
        chain(document, kept));
  }

  private static List<TrailView.Link> chain(Document document, Optional<Kept> kept) {
    return kept
        .map(k -> k.recovery().history().documents(k.project().id()))
        .map(known -> Chain.of(document.path(), known))
        .orElse(List.of())
        .stream()
        .map(d -> new TrailView.Link(d.id(), d.path()))
        .toList();
  }

  private List<StateView> stateViews(
      Document document, List<Held> held, Optional<Kept> kept, Map<Long, Path> roots) {
    Map<String, List<TrailView.Mark>> marked = new HashMap<>();
    marks
        .findByDocumentId(document.key())
        .forEach(
            m ->
                marked
                    .computeIfAbsent(m.manifestDigest, k -> new ArrayList<>())
                    .add(new TrailView.Mark(m.mark, m.who, m.note, m.made)));
    Map<String, String> reasons =
        kept.map(k -> k.keeper().decide(k.project(), document.id()))
            .map(KeepDecision::kept)
            .orElse(Map.of());
    List<StateView> views = new ArrayList<>();
    StateView plain = null;
    StateView step = null;
    for (Held state : held) {
      StateView view =
          view(
              state,
              roots,
              marked.getOrDefault(state.row().manifestDigest, List.of()),
              reasons,
              leaned(document, state, kept),
              state.isStep() ? step : plain);
      views.add(0, view);
      step = state.isStep() ? view : step;
      plain = state.isStep() ? plain : view;
    }
    return views;
  }

  private static StateView view(
      Held state,
      Map<Long, Path> roots,
      List<TrailView.Mark> marked,
      Map<String, String> reasons,
      List<TrailView.Leaned> leaned,
      @Nullable StateView before) {
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
        leaned,
        state.members().stream()
            .flatMap(m -> m.copies().stream().map(c -> view(c, m.role(), roots)))
            .sorted(Comparator.comparing(c -> CopyKind.valueOf(c.kind())))
            .toList(),
        marked,
        kept(state, reasons),
        state.isStep() ? step(state) : null,
        state.row().toldBy == null ? null : Evidence.Kind.valueOf(state.row().toldBy).words(),
        state.row().contradictions == null
            ? List.of()
            : StateRecorder.MAPPER.readValue(
                state.row().contradictions, new TypeReference<List<String>>() {}),
        state.row().orderKnown);
  }

  private static List<TrailView.Leaned> leaned(Document document, Held state, Optional<Kept> kept) {
    List<JournalEntry.Leaned> seen =
        kept.map(k -> k.recovery().history().leansOn(document.id(), state.row().manifestDigest))
            .orElse(List.of());
    return seen.isEmpty()
        ? state.shown().content().links().stream()
            .map(uri -> new TrailView.Leaned(uri, null))
            .toList()
        : seen.stream().map(l -> new TrailView.Leaned(l.path(), l.content() != null)).toList();
  }

  private static TrailView.Step step(Held state) {
    List<String> lacks = new ArrayList<>(state.lacks());
    state.members().stream()
        .filter(m -> !m.stands())
        .forEach(m -> lacks.add("its " + words(m) + " is no longer kept"));
    return new TrailView.Step(
        state.row().run,
        state.row().step,
        lacks,
        state.row().settled,
        state.members().stream()
            .map(
                m ->
                    new TrailView.StepFile(
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
  private static String kept(Held state, Map<String, String> reasons) {
    return state.standing().stream()
        .filter(m -> m.unit() != null && reasons.containsKey(m.unit()))
        .filter(m -> !"SETUP".equals(m.role()))
        .map(m -> reasons.get(m.unit()))
        .distinct()
        .collect(Collectors.joining(", "));
  }

  private static CopyView view(CopyRow c, @Nullable String role, Map<Long, Path> roots) {
    return new CopyView(
        c.uuid,
        role,
        c.size,
        c.isFull()
            ? List.of()
            : StateRecorder.MAPPER.readValue(c.leftOut, new TypeReference<List<String>>() {}),
        c.sourceKind,
        c.originKind,
        roots.get(c.placeId).resolve(c.relPath).toString(),
        c.originPath,
        c.sequence,
        c.cause,
        c.note,
        c.settled,
        c.fault,
        Moments.ofNanos(c.modified),
        c.since);
  }

  private List<TrailView.Activity> activity(Document document, List<StateView> views) {
    Map<Instant, String> byTime = new HashMap<>();
    for (StateView state : views) {
      for (CopyView copy : state.copies()) {
        if (copy.originKind().equals(CopyKind.LIVE.name())) {
          byTime.put(copy.modified(), state.id());
        }
      }
    }
    return activities.findByDocumentIdOrderByModified(document.key()).stream()
        .map(
            a -> {
              Instant at = Moments.ofNanos(a.modified);
              return new TrailView.Activity(at, a.size, byTime.getOrDefault(at, ""));
            })
        .toList();
  }

  private List<TrailView.Watched> watched(String recovery, Map<Long, Path> roots) {
    return roots.entrySet().stream()
        .filter(e -> e.getValue().toString().equals(recovery))
        .flatMap(e -> watchings.findByPlaceIdOrderBySince(e.getKey()).stream())
        .map(w -> new TrailView.Watched(w.since, w.until))
        .toList();
  }

  private List<TrailView.BinnedCopy> bin(Document document, Map<Long, Path> roots) {
    return copies.findByDocumentIdAndBinPathIsNotNull(document.key()).stream()
        .map(
            c ->
                new TrailView.BinnedCopy(
                    c.uuid,
                    c.binPath,
                    Path.of(c.relPath).getFileName().toString(),
                    contents.findById(c.contentId).map(x -> x.length).orElse(0L),
                    c.gone))
        .toList();
  }

  @Transactional(readOnly = true)
  public StateView state(UUID document, String state) {
    return trail(document).states().stream()
        .filter(s -> s.id().equals(state))
        .findFirst()
        .orElseThrow(() -> ProblemException.notFound("That state is not in the trail any more."));
  }

  /**
   * The files of a step with a reachable copy of each.
   *
   * @throws ProblemException one has none
   */
  @Transactional(readOnly = true)
  public List<StepLayout.Piece> pieces(UUID id, String state) {
    Document document = projects.document(id);
    Held step =
        states.of(List.of(document.key())).getOrDefault(document.key(), List.of()).stream()
            .filter(h -> h.row().manifestDigest.equals(state))
            .findFirst()
            .orElseThrow();
    return step.standing().stream().map(this::piece).toList();
  }

  /** One side of a comparison: a reachable file, its proper name, what it holds. */
  public record Side(String content, Path file, String name) {}

  /**
   * Two files to hold against each other.
   *
   * @param role of both in their run, null for a document that is one file
   */
  public record Sides(@Nullable String role, Side a, Side b) {}

  /**
   * What to compare of two states, the most telling first: of steps result, restart file and
   * set-up, as far as both have one; a set-up alone is held against a step's.
   */
  @Transactional(readOnly = true)
  public List<Sides> sides(UUID id, String a, String b) {
    Document document = projects.document(id);
    Held inA = held(document, a);
    Held inB = held(document, b);
    List<Sides> sides = new ArrayList<>();
    for (String role : ROLES) {
      Optional<Member> left = inA.standing(role);
      Optional<Member> right = inB.standing(role);
      if (left.isPresent() && right.isPresent()) {
        sides.add(
            new Sides(left.get().role(), side(document, left.get()), side(document, right.get())));
      }
    }
    if (sides.isEmpty()) {
      throw ProblemException.badInput(
          "nothing-in-common", "The two states have no file in common that could be compared.");
    }
    return sides;
  }

  private Held held(Document document, String state) {
    return states.of(List.of(document.key())).getOrDefault(document.key(), List.of()).stream()
        .filter(h -> h.row().manifestDigest.equals(state))
        .findFirst()
        .orElseThrow(() -> ProblemException.notFound("That state is not in the trail any more."));
  }

  /** The most telling file of a state, to hold another file against. */
  @Transactional(readOnly = true)
  public Side side(UUID id, String state) {
    Document document = projects.document(id);
    Held held = held(document, state);
    return ROLES.stream()
        .flatMap(role -> held.standing(role).stream())
        .findFirst()
        .map(m -> side(document, m))
        .orElseThrow(() -> ProblemException.notFound("No copy of that state can be reached."));
  }

  /** The state of a document that holds exactly that content; empty if none stands. */
  @Transactional(readOnly = true)
  public Optional<String> stateOf(UUID id, String content) {
    Document document = projects.document(id);
    return states.of(List.of(document.key())).getOrDefault(document.key(), List.of()).stream()
        .filter(h -> h.standing().stream().anyMatch(m -> m.content().id().equals(content)))
        .map(h -> h.row().manifestDigest)
        .findFirst();
  }

  private Side side(Document document, Member member) {
    String name = member.role() == null ? document.path() : member.path();
    return new Side(
        member.content().id(), piece(member).source(), Path.of(name).getFileName().toString());
  }

  private StepLayout.Piece piece(Member member) {
    Path source =
        member.copies().stream()
            .filter(c -> c.fault == null)
            .sorted(Comparator.comparing(c -> !CopyKind.valueOf(c.sourceKind).isOurs()))
            .flatMap(c -> places.byKey(c.placeId).map(p -> p.path().resolve(c.relPath)).stream())
            .filter(java.nio.file.Files::isRegularFile)
            .findFirst()
            .orElseThrow(
                () ->
                    ProblemException.away(
                        "No copy of " + member.path() + " can be reached. Nothing was touched.",
                        null));
    return new StepLayout.Piece(
        source, dev.kavrin.core.chunk.ContentId.parse(member.content().id()), member.path());
  }

  /** The best copy of a state to read from: whole and reachable, Kavrin's own first. */
  @Transactional(readOnly = true)
  public CopyView bestCopy(UUID document, String state) {
    StateView view = state(document, state);
    if (view.step() != null) {
      throw ProblemException.badInput(
          "many-files",
          "That state is a step of several files that belong together; lay them out together."
              + " Nothing was touched.");
    }
    return view.copies().stream()
        .filter(c -> c.fault() == null && java.nio.file.Files.isRegularFile(Path.of(c.path())))
        .min(
            Comparator.comparing((CopyView c) -> !c.leftOut().isEmpty())
                .thenComparing(c -> CopyKind.valueOf(c.kind()).isOurs() ? 0 : 1))
        .orElseThrow(() -> ProblemException.away("No copy of that state can be reached.", null));
  }

  /**
   * What a document's states are known by.
   *
   * @param files whole, reachable ones, each of another state, spread over the trail
   * @param parts fingerprints of what is inside of those
   */
  public record KnownBy(List<Path> files, Set<String> parts) {}

  @Transactional(readOnly = true)
  public KnownBy knownBy(UUID id, int most) {
    Document document = projects.document(id);
    List<Held> held = states.of(List.of(document.key())).getOrDefault(document.key(), List.of());
    int every = Math.max(1, held.size() / most);
    List<Path> files = new ArrayList<>();
    Set<String> parts = new HashSet<>();
    for (int i = held.size() - 1; i >= 0; i -= every) {
      Member member = held.get(i).shown();
      parts.addAll(member.content().fingerprints());
      member.copies().stream()
          .filter(c -> c.fault == null && c.isFull())
          .flatMap(c -> places.byKey(c.placeId).map(p -> p.path().resolve(c.relPath)).stream())
          .filter(java.nio.file.Files::isRegularFile)
          .findFirst()
          .ifPresent(files::add);
    }
    return new KnownBy(files, parts);
  }

  /** A reachable file holding a content, with an ending that tells its kind. */
  @Transactional(readOnly = true)
  public Optional<Path> fileOf(dev.kavrin.core.chunk.ContentId content) {
    List<Long> keys =
        contents.findByLengthAndDigest(content.length(), content.digest()).stream()
            .map(c -> c.id)
            .toList();
    return copies.findByContentIdInAndGoneIsNull(keys).stream()
        .sorted(Comparator.comparing(c -> !CopyKind.valueOf(c.sourceKind).isOurs()))
        .flatMap(c -> places.byKey(c.placeId).map(p -> p.path().resolve(c.relPath)).stream())
        .filter(java.nio.file.Files::isRegularFile)
        .findFirst();
  }

  /** What a file with that content is called, with the ending its document has. */
  public String nameOf(dev.kavrin.core.chunk.ContentId content, Path file) {
    return contents.findByLengthAndDigest(content.length(), content.digest()).stream()
        .map(row -> row.ext)
        .filter(ext -> ext != null && !ext.isEmpty())
        .findFirst()
        .map(ext -> "file." + ext)
        .orElse(file.getFileName().toString());
  }

  /** Puts a mark on a state or takes it off: "pinned", "noted", "opened right", "opened wrong". */
  public void mark(UUID document, String state, String mark, boolean on, String who, String note)
      throws IOException {
    Kept kept = projects.kept(projects.document(document).project());
    kept.recoveries()
        .record(new JournalEntry.Marked(clock.instant(), document, state, mark, on, who, note));
    follower.follow();
  }

  /** Reads a state's copies again; what is inside them is read again behind that. */
  public int recheck(UUID id, String state) throws IOException {
    Document document = projects.document(id);
    Held held =
        states.of(List.of(document.key())).getOrDefault(document.key(), List.of()).stream()
            .filter(h -> h.row().manifestDigest.equals(state))
            .findFirst()
            .orElseThrow(
                () -> ProblemException.notFound("That state is not in the trail any more."));
    Set<String> units = new HashSet<>();
    held.members().stream().map(Member::unit).filter(Objects::nonNull).forEach(units::add);
    int whole = projects.kept(document.project()).keeper().reread(id, units);
    follower.follow();
    read.readAgain(held.copies().stream().map(c -> c.contentId).toList());
    return whole;
  }

  public void takeBack(UUID document, String bin) throws IOException {
    projects.kept(projects.document(document).project()).keeper().takeBack(bin);
    follower.follow();
  }
}
