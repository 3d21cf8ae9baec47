package dev.kavrin.server.version;

import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Moments;
import dev.kavrin.core.watch.SaveAsSeries;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.KnownVersions.KnownVersion;
import dev.kavrin.server.version.KnownVersions.Member;
import dev.kavrin.server.version.VersionsView.CopyView;
import dev.kavrin.server.version.VersionsView.StateView;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
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

/** Puts a document's trail together. */
@Service
public class VersionService {
  private static final String CARRIED_OVER = "carried over";
  private static final DateTimeFormatter SAVED = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss");

  private final ProjectService projects;
  private final FolderService places;
  private final Engine engine;
  private final JournalFollower follower;
  private final Finder finder;
  private final VersionRows.Contents contents;
  private final KnownVersions states;
  private final ReadContents read;
  private final Summaries summaries;
  private final VersionRows.Copies copies;
  private final VersionRows.Activities activities;
  private final VersionViews stateViews;
  private final VersionRows.Watchings watchings;
  private final InstantSource clock;

  VersionService(
      ProjectService projects,
      FolderService places,
      Engine engine,
      JournalFollower follower,
      Finder finder,
      VersionRows.Contents contents,
      KnownVersions states,
      ReadContents read,
      Summaries summaries,
      VersionRows.Copies copies,
      VersionRows.Activities activities,
      VersionViews stateViews,
      VersionRows.Watchings watchings,
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
    this.stateViews = stateViews;
    this.watchings = watchings;
    this.clock = clock;
  }

  /** Looks at the places now, then tells. */
  public void look(UUID document) {
    follower.follow();
    finder.look(projects.document(document));
  }

  /**
   * Everything known of a document, all states of it.
   *
   * @param states newest work first
   */
  public record Whole(
      UUID document, UUID project, List<StateView> states, List<VersionsView.Place> lookedAt) {}

  @Transactional(readOnly = true)
  public Whole whole(UUID id) {
    Document document = projects.document(id);
    return new Whole(id, document.project(), views(document), lookedAt(id));
  }

  /** What is shown first: the newest states in full, what is older as the wake draws it. */
  @Transactional(readOnly = true)
  public VersionsView trail(UUID id) {
    Document document = projects.document(id);
    ProjectService.Project project = projects.byId(document.project());
    Optional<Kept> kept = engine.project(document.project());
    Map<Long, Path> roots = roots();
    Map<Long, List<KnownVersion>> held = states.of(List.of(document.key()));
    List<KnownVersion> all = held.getOrDefault(document.key(), List.of());
    List<StateView> views = stateViews.of(document, all, kept, roots);
    List<StateView> shown = page(views, 0);
    Summaries.Summary summary = summaries.of(project, List.of(document), held).get(id);
    return new VersionsView(
        id,
        document.project(),
        project.name(),
        document.path(),
        document.live().toString(),
        VersionsView.Count.of(views),
        shown,
        shown.size() < views.size() ? Gathered.of(views, shown.size()) : List.of(),
        activity(document, shown, shown.size() < views.size()),
        watched(project.recovery(), roots),
        bin(document, roots),
        kept.map(k -> StoredCopies.of(k, id, views)).orElse(List.of()),
        lookedAt(id),
        summary.exposure(),
        summary.live(),
        chain(document, kept));
  }

  /** States in full, newest work first, a page of them. */
  @Transactional(readOnly = true)
  public List<StateView> page(UUID id, int number) {
    return page(views(projects.document(id)), number);
  }

  private static List<StateView> page(List<StateView> views, int number) {
    int from = Math.min(views.size(), Math.multiplyExact(number, VersionsView.PAGE));
    return views.subList(from, Math.min(views.size(), from + VersionsView.PAGE));
  }

  private List<StateView> views(Document document) {
    return stateViews.of(
        document,
        states.of(List.of(document.key())).getOrDefault(document.key(), List.of()),
        engine.project(document.project()),
        roots());
  }

  private Map<Long, Path> roots() {
    return places.all().stream().collect(Collectors.toMap(p -> p.key(), p -> p.path()));
  }

  private List<VersionsView.Place> lookedAt(UUID id) {
    return finder.lookedAt(id).stream()
        .map(l -> new VersionsView.Place(l.folder(), l.files(), l.reachable()))
        .toList();
  }

  private static List<VersionsView.Link> chain(Document document, Optional<Kept> kept) {
    return kept
        .map(k -> k.folder().history().documents(k.project().id()))
        .map(known -> SaveAsSeries.of(document.path(), known))
        .orElse(List.of())
        .stream()
        .map(d -> new VersionsView.Link(d.id(), d.path()))
        .toList();
  }

  /** Writes as far back as the states shown in full reach, or all. */
  private List<VersionsView.Activity> activity(
      Document document, List<StateView> shown, boolean more) {
    Map<Instant, String> byTime = new HashMap<>();
    for (StateView state : shown) {
      for (CopyView copy : state.copies()) {
        if (copy.originKind().equals(CopyKind.LIVE.name())) {
          byTime.put(copy.modified(), state.id());
        }
      }
    }
    long from = more ? Moments.nanos(shown.get(shown.size() - 1).workFrom()) : Long.MIN_VALUE;
    return activities.writes(document.key(), from).stream()
        .map(
            a -> {
              Instant at = Moments.ofNanos(a.modified());
              return new VersionsView.Activity(at, a.size(), byTime.getOrDefault(at, ""));
            })
        .toList();
  }

  private List<VersionsView.Watched> watched(String recovery, Map<Long, Path> roots) {
    return roots.entrySet().stream()
        .filter(e -> e.getValue().toString().equals(recovery))
        .flatMap(e -> watchings.findByPlaceIdOrderBySince(e.getKey()).stream())
        .map(w -> new VersionsView.Watched(w.since, w.until))
        .toList();
  }

  private List<VersionsView.BinnedCopy> bin(Document document, Map<Long, Path> roots) {
    return copies.findByDocumentIdAndBinPathIsNotNull(document.key()).stream()
        .map(
            c ->
                new VersionsView.BinnedCopy(
                    c.uuid,
                    c.binPath,
                    Path.of(c.relPath).getFileName().toString(),
                    contents.findById(c.contentId).map(x -> x.length).orElse(0L),
                    c.gone))
        .toList();
  }

  @Transactional(readOnly = true)
  public StateView state(UUID document, String state) {
    return views(projects.document(document)).stream()
        .filter(s -> s.id().equals(state))
        .findFirst()
        .orElseThrow(() -> ProblemException.notFound("That version does not exist any more."));
  }

  /** The best copy of a state to read from: whole and reachable, Kavrin's own first. */
  public CopyView bestCopy(UUID document, String state) {
    StateView view = state(document, state);
    if (view.step() != null) {
      throw ProblemException.badInput(
          "many-files",
          "That version is a step of several files that belong together; lay them out together."
              + " Nothing was touched.");
    }
    return view.copies().stream()
        .filter(c -> c.fault() == null && engine.disk().isFile(Path.of(c.path())))
        .min(
            Comparator.comparing((CopyView c) -> !c.leftOut().isEmpty())
                .thenComparing(c -> CopyKind.valueOf(c.kind()).isOurs() ? 0 : 1))
        .orElseThrow(() -> ProblemException.away("No copy of that version can be reached.", null));
  }

  /**
   * Puts a mark on a state or takes it off: "pinned", "noted", "opened right", "opened wrong",
   * "given up"; "carried over" into the document's file, as it was saved last.
   */
  public void mark(UUID document, String state, String mark, boolean on, String who, String note)
      throws IOException {
    Kept kept = projects.kept(projects.document(document).project());
    String said =
        mark.equals(CARRIED_OVER) && on && (note == null || note.isBlank())
            ? lastSave(kept, document)
            : note;
    kept.folders()
        .record(new JournalEntry.Marked(clock.instant(), document, state, mark, on, who, said));
    follower.follow();
  }

  private static String lastSave(Kept kept, UUID document) {
    return kept.folder()
        .history()
        .lastWritten(document)
        .map(w -> SAVED.format(w.modified().atZone(ZoneId.of(kept.project().zone()))))
        .map(time -> "into the file as saved " + time)
        .orElse("into the file as it stands");
  }

  /** Reads a state's copies again; what is inside them is read again behind that. */
  public int recheck(UUID id, String state) throws IOException {
    Document document = projects.document(id);
    KnownVersion held =
        states.of(List.of(document.key())).getOrDefault(document.key(), List.of()).stream()
            .filter(h -> h.row().manifestDigest.equals(state))
            .findFirst()
            .orElseThrow(() -> ProblemException.notFound("That version does not exist any more."));
    Set<String> units = new HashSet<>();
    held.members().stream().map(Member::unit).filter(Objects::nonNull).forEach(units::add);
    int whole = projects.kept(document.project()).retention().reread(id, units);
    follower.follow();
    read.readAgain(held.copies().stream().map(c -> c.contentId).toList());
    return whole;
  }

  public void takeBack(UUID document, String bin) throws IOException {
    projects.kept(projects.document(document).project()).retention().takeBack(bin);
    follower.follow();
  }
}
