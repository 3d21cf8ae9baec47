package dev.kavrin.server.incident;

import dev.kavrin.core.content.Finding;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.version.Candidate;
import dev.kavrin.core.version.Candidates;
import dev.kavrin.server.incident.IncidentService.Incident;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView;
import dev.kavrin.server.version.VersionsView.CopyView;
import dev.kavrin.server.version.VersionsView.StateView;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** After a crash: what was lost, what survived, which one to take and why. */
@Service
public class RecoverService {
  /** Versions of that time before the crash are all shown, and the best in any case. */
  private static final Duration RECENT = Duration.ofHours(12);

  private static final int BEST = 12;

  private final IncidentService incidents;
  private final VersionService trail;
  private final InstantSource clock;

  RecoverService(IncidentService incidents, VersionService trail, InstantSource clock) {
    this.incidents = incidents;
    this.trail = trail;
    this.clock = clock;
  }

  /**
   * @param rank from 1
   * @param words why it stands where it stands
   * @param step of a run that it can be gone on from, null if it is none
   */
  record CandidateView(
      int rank,
      String state,
      String content,
      String kind,
      String path,
      String verdict,
      String words,
      Instant work,
      long size,
      @Nullable Long parts,
      @Nullable Long step) {}

  /**
   * @param incident null if none is known; then the moment of looking serves
   * @param lostSeconds work between the best candidate and the crash, null without one
   * @param recommended state to take, null if nothing whole was found
   * @param against state to compare it with by default: the last good save
   * @param older whole states further back, in the trail
   * @param files looked at in all places
   */
  record DeskView(
      @Nullable Incident incident,
      Instant crash,
      @Nullable Long lostSeconds,
      @Nullable String recommended,
      @Nullable String against,
      List<CandidateView> candidates,
      int older,
      int places,
      int files,
      List<VersionsView.Place> lookedAt) {}

  /** Seconds of work the best copy lacks; empty without an incident or a whole copy. */
  @Transactional(readOnly = true)
  public Optional<Long> lostSeconds(UUID document) {
    DeskView view = desk(document);
    return view.incident() == null ? Optional.empty() : Optional.ofNullable(view.lostSeconds());
  }

  /** The state to take of a document; empty if nothing whole was found. */
  @Transactional(readOnly = true)
  public Optional<String> recommended(UUID document) {
    return Optional.ofNullable(desk(document).recommended());
  }

  DeskView desk(UUID document) {
    return desk(trail.whole(document));
  }

  private DeskView desk(VersionService.Whole view) {
    Incident incident =
        incidents.of(view.project()).stream()
            .filter(i -> i.documents().contains(view.document()))
            .findFirst()
            .orElse(null);
    Instant crash = incident == null ? clock.instant() : incident.to();
    List<Candidate> all = new ArrayList<>();
    for (StateView state : view.states()) {
      (state.step() == null ? state.copies() : state.copies().subList(0, 1))
          .forEach(c -> all.add(candidate(state, c)));
    }
    Set<String> live =
        view.states().stream()
            .filter(s -> hasKind(s, CopyKind.LIVE))
            .map(StateView::id)
            .collect(Collectors.toSet());
    Instant recent = crash.minus(RECENT);
    Candidates.Survivors survivors =
        Candidates.of(all, crash, c -> c.work().isAfter(recent) || live.contains(c.state()), BEST);
    Optional<Candidate> best = survivors.recommended();
    return new DeskView(
        incident,
        crash,
        best.map(b -> Math.max(0, Duration.between(b.work(), crash).toSeconds())).orElse(null),
        best.map(Candidate::state).orElse(null),
        against(view, best.map(Candidate::state).orElse("")),
        views(survivors.shown(), view),
        survivors.further(),
        view.lookedAt().size(),
        view.lookedAt().stream().mapToInt(VersionsView.Place::files).sum(),
        view.lookedAt());
  }

  private static Candidate candidate(StateView s, CopyView c) {
    String reason =
        Verdict.valueOf(s.verdict()).trustworthy() || s.findings().isEmpty()
            ? ""
            : Finding.heaviest(s.findings()).orElseThrow().words().replaceAll("\\.$", "");
    Boolean opened =
        s.marks().stream()
            .map(VersionsView.Mark::mark)
            .filter(m -> m.startsWith("opened"))
            .map(m -> m.equals("opened right"))
            .findFirst()
            .orElse(null);
    boolean incomplete = s.step() != null && !s.step().lacks().isEmpty();
    if (incomplete) {
      reason = "incomplete, " + String.join(", ", s.step().lacks());
    }
    if (!c.leftOut().isEmpty()) {
      reason =
          (reason.isEmpty() ? "" : reason + ", ")
              + "a light copy without "
              + String.join(", ", c.leftOut());
    }
    Verdict verdict =
        c.fault() != null
            ? Verdict.DAMAGED
            : incomplete ? Verdict.DOUBTFUL : Verdict.valueOf(s.verdict());
    return new Candidate(
        s.id(),
        c.path(),
        CopyKind.valueOf(c.originKind().equals("LIVE") ? c.kind() : c.originKind()),
        verdict,
        c.fault() == null ? reason : c.fault(),
        s.workTo(),
        !s.orderKnown(),
        s.size(),
        s.labels(),
        opened,
        !c.settled());
  }

  /** The newest whole state that came from a save, other than the recommended one. */
  private static String against(VersionService.Whole view, String recommended) {
    return view.states().stream()
        .filter(s -> !s.id().equals(recommended))
        .filter(s -> Verdict.valueOf(s.verdict()).trustworthy())
        .filter(
            s ->
                s.copies().stream()
                    .anyMatch(
                        c ->
                            c.originKind().equals(CopyKind.LIVE.name())
                                || c.originKind().equals(CopyKind.KEPT_BY_SAVE.name())))
        .max(Comparator.comparing(StateView::workTo))
        .map(StateView::id)
        .orElse(null);
  }

  private static boolean hasKind(StateView state, CopyKind kind) {
    return state.copies().stream().anyMatch(c -> c.kind().equals(kind.name()));
  }

  private static List<CandidateView> views(
      List<Candidates.Ranked> ranked, VersionService.Whole view) {
    Map<String, StateView> states =
        view.states().stream().collect(Collectors.toMap(StateView::id, s -> s));
    List<CandidateView> views = new ArrayList<>();
    for (Candidates.Ranked r : ranked) {
      Candidate c = r.candidate();
      StateView state = states.get(c.state());
      views.add(
          new CandidateView(
              views.size() + 1,
              c.state(),
              state.content(),
              c.kind().name(),
              c.path(),
              c.verdict().name(),
              r.words(),
              c.work(),
              c.size(),
              state.parts(),
              state.step() == null ? null : state.step().step()));
    }
    return views;
  }
}
