package dev.kavrin.server.restore;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.JournalEntry.Leaned;
import dev.kavrin.core.version.Manifest;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.incident.IncidentService;
import dev.kavrin.server.incident.IncidentService.Incident;
import dev.kavrin.server.incident.RecoverService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.StateView;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** For each document of a group the state it would go back to, and why that one. */
@Service
class GroupTable {
  private static final int CHOICES = 12;
  private static final String MISSING = "nothing";

  private final ProjectService projects;
  private final VersionService trail;
  private final IncidentService incidents;
  private final RecoverService desks;

  GroupTable(
      ProjectService projects,
      VersionService trail,
      IncidentService incidents,
      RecoverService desks) {
    this.projects = projects;
    this.trail = trail;
    this.incidents = incidents;
    this.desks = desks;
  }

  /** A state that can be taken instead. */
  record AsOfChoice(String state, Instant work, String verdict, long size, @Nullable Long step) {}

  /**
   * A document.
   *
   * @param linked true if it is here because another leans on it
   * @param everSaved false if no file of it was ever seen
   * @param state it would go back to, null if none is known
   * @param why that one, or why none
   * @param present state that the file of now holds, "nothing" if there is no file
   * @param run true if its states are steps of several files, laid out in a folder of their own
   * @param choices newest first
   */
  record AsOfRow(
      UUID document,
      String name,
      boolean linked,
      boolean everSaved,
      @Nullable String state,
      String why,
      String present,
      @Nullable Instant modified,
      boolean run,
      List<AsOfChoice> choices) {}

  /**
   * @param asOf the moment, or that of the crash
   */
  record AsOfTable(
      UUID project, String name, Instant asOf, @Nullable Incident incident, List<AsOfRow> rows) {}

  /** All documents of a project as of a moment. */
  AsOfTable asOf(UUID project, Instant moment) {
    List<AsOfRow> rows = new ArrayList<>();
    for (Document document : projects.documents(project)) {
      VersionService.Whole whole = trail.whole(document.id());
      StateView then = newest(whole, moment).orElse(null);
      rows.add(row(document, whole, then, moment, then == null ? "not known by then" : ""));
    }
    return table(project, moment, null, rows);
  }

  /** All documents that went down together, each with the copy that is recommended for it. */
  AsOfTable ofIncident(UUID project, UUID id) {
    Incident incident =
        incidents.of(project).stream()
            .filter(i -> i.id().equals(id))
            .findFirst()
            .orElseThrow(() -> ProblemException.notFound("No such incident."));
    List<AsOfRow> rows = new ArrayList<>();
    for (UUID one : incident.documents()) {
      VersionService.Whole whole = trail.whole(one);
      String recommended = desks.recommended(one).orElse("");
      StateView state =
          whole.states().stream().filter(s -> s.id().equals(recommended)).findFirst().orElse(null);
      String none = state == null ? "nothing whole was found" : "";
      rows.add(row(projects.document(one), whole, state, incident.to(), none));
    }
    return table(project, incident.to(), incident, rows);
  }

  /** A state with what it leaned on when it was made. */
  AsOfTable withLinks(UUID id, String state) {
    Document document = projects.document(id);
    Kept kept = projects.kept(document.project());
    VersionService.Whole whole = trail.whole(id);
    StateView chosen =
        whole.states().stream()
            .filter(s -> s.id().equals(state))
            .findFirst()
            .orElseThrow(() -> ProblemException.notFound("That version does not exist any more."));
    List<AsOfRow> rows = new ArrayList<>();
    rows.add(row(document, whole, chosen, chosen.workTo(), ""));
    for (Leaned link : kept.folder().history().leansOn(id, state)) {
      projects.documents(document.project()).stream()
          .filter(d -> d.path().equals(link.path()))
          .findFirst()
          .ifPresent(linked -> rows.add(linked(linked, link, chosen.workTo())));
    }
    return table(document.project(), chosen.workTo(), null, rows);
  }

  private AsOfRow linked(Document document, Leaned link, Instant moment) {
    VersionService.Whole whole = trail.whole(document.id());
    String then = link.content() == null ? "" : Manifest.ofFile(link.content()).digest();
    StateView state =
        whole.states().stream().filter(s -> s.id().equals(then)).findFirst().orElse(null);
    return row(document, whole, state, moment, state == null ? "no copy of then exists" : "");
  }

  private AsOfTable table(
      UUID project, Instant moment, @Nullable Incident incident, List<AsOfRow> rows) {
    rows.sort(Comparator.comparing(AsOfRow::linked).thenComparing(AsOfRow::name));
    return new AsOfTable(project, projects.byId(project).name(), moment, incident, rows);
  }

  private AsOfRow row(
      Document document,
      VersionService.Whole whole,
      @Nullable StateView state,
      Instant moment,
      String none) {
    Optional<Watch.Status> live =
        projects.kept(document.project()).watch().status().stream()
            .filter(s -> s.document().equals(document.id()))
            .findFirst();
    return new AsOfRow(
        document.id(),
        document.path(),
        document.linked(),
        live.map(Watch.Status::everSaved).orElse(true),
        state == null ? null : state.id(),
        state == null ? none : why(state, moment),
        present(document, whole),
        live.map(Watch.Status::modified).orElse(null),
        whole.states().stream().anyMatch(s -> s.step() != null),
        choices(whole.states(), state, moment));
  }

  private static String why(StateView state, Instant moment) {
    boolean exact = !state.orderKnown();
    String newest =
        state.workTo().isAfter(moment) ? "what survived the crash" : "the newest whole one by then";
    return exact ? newest + ", its order is not known" : newest;
  }

  private static String present(Document document, VersionService.Whole whole) {
    return whole.states().stream()
        .filter(s -> holds(s, document))
        .findFirst()
        .map(StateView::id)
        .orElse(MISSING);
  }

  private static boolean holds(StateView state, Document document) {
    return state.copies().stream()
        .anyMatch(c -> c.kind().equals("LIVE") && c.path().equals(document.live().toString()));
  }

  private static Optional<StateView> newest(VersionService.Whole whole, Instant moment) {
    return whole.states().stream()
        .filter(s -> !s.workTo().isAfter(moment) && isGood(s))
        .max(Comparator.comparing(StateView::workTo));
  }

  private static boolean isGood(StateView s) {
    return Verdict.valueOf(s.verdict()).trustworthy()
        && (s.step() == null || s.step().lacks().isEmpty())
        && s.copies().stream().anyMatch(c -> c.leftOut().isEmpty() && c.fault() == null)
        && s.marks().stream().noneMatch(m -> m.mark().equals("opened wrong"));
  }

  /** The chosen one with its neighbours in time. */
  private static List<AsOfChoice> choices(
      List<StateView> states, @Nullable StateView chosen, Instant moment) {
    List<StateView> takeable = states.stream().filter(s -> isGood(s) || s.equals(chosen)).toList();
    return Neighbours.of(takeable, chosen, moment, StateView::workTo, CHOICES).stream()
        .map(
            s ->
                new AsOfChoice(
                    s.id(),
                    s.workTo(),
                    s.verdict(),
                    s.size(),
                    s.step() == null ? null : s.step().step()))
        .toList();
  }
}
