package dev.kavrin.server.loss;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.journal.JournalEntry.LossAsked;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.people.Access;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.AllDocuments;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.StateView;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Pattern;
import java.io.IOException;
import java.security.Principal;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Saves that took away what is hardly taken away on purpose, and what people say to it. */
@RestController
class LossController {
  private static final Duration WARNED_AHEAD = Duration.ofDays(2);

  private final ProjectService projects;
  private final AllDocuments documents;
  private final VersionService trail;
  private final VersionFiles files;
  private final Engine engine;
  private final JournalFollower follower;
  private final Events events;
  private final Access access;
  private final InstantSource clock;

  LossController(
      ProjectService projects,
      AllDocuments documents,
      VersionService trail,
      VersionFiles files,
      Engine engine,
      JournalFollower follower,
      Events events,
      Access access,
      InstantSource clock) {
    this.projects = projects;
    this.documents = documents;
    this.trail = trail;
    this.files = files;
    this.engine = engine;
    this.follower = follower;
    this.events = events;
    this.access = access;
    this.clock = clock;
  }

  /**
   * A question that is open.
   *
   * @param content of the state before, to be looked at; null if no copy can be reached
   * @param part largest of what went, as the content calls it; null if nothing in particular did
   * @param parts ids of what went, the largest first
   * @param saved when that was saved
   * @param bytes room the state before takes while it is kept for this
   * @param soonGone true if it will not be kept for this much longer
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record LossView(
      UUID document,
      String path,
      String project,
      String before,
      String after,
      @Nullable String content,
      @Nullable String part,
      List<String> parts,
      List<String> losses,
      Instant saved,
      long bytes,
      Instant until,
      boolean soonGone) {}

  record LossAnswer(@NotBlank String after, @Pattern(regexp = "meant|not today") String answer) {}

  /** All open questions, the newest first. */
  @GetMapping("/api/losses")
  List<LossView> open() {
    List<LossView> open = new ArrayList<>();
    for (Kept kept : engine.projects()) {
      UUID project = kept.project().id();
      List<LossAsked> asked =
          access.sees(project) ? kept.folder().history().openLosses(project) : List.of();
      if (!asked.isEmpty()) {
        open.addAll(views(kept.project().name(), documents.of(project), asked));
      }
    }
    open.sort(Comparator.comparing(LossView::saved).reversed());
    return open;
  }

  /** Of documents that are not recorded yet nothing can be told. */
  private List<LossView> views(String project, List<Document> recorded, List<LossAsked> asked) {
    List<LossView> views = new ArrayList<>();
    for (Document document : recorded) {
      asked.stream()
          .filter(a -> a.document().equals(document.id()))
          .map(a -> view(project, document, a))
          .forEach(views::add);
    }
    return views;
  }

  /** What a person says to one; then the state before is no longer kept for it. */
  @PostMapping("/api/documents/{id}/losses")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void answer(@PathVariable UUID id, @Valid @RequestBody LossAnswer r, Principal who)
      throws IOException {
    Document document = projects.document(id);
    Kept kept = projects.kept(document.project());
    LossAsked asked =
        of(document).stream()
            .filter(a -> a.after().equals(r.after()) && a.isOpen())
            .findFirst()
            .orElseThrow(
                () -> ProblemException.notFound("That was answered already, or is no question."));
    kept.folders().record(asked.answered(clock.instant(), r.answer(), who.getName()));
    follower.follow();
    events.changed("loss");
  }

  private List<LossAsked> of(Document document) {
    return engine
        .project(document.project())
        .map(k -> k.folder().history().losses(document.id()))
        .orElse(List.of());
  }

  private LossView view(String project, Document document, LossAsked asked) {
    List<StateView> states = trail.whole(document.id()).states();
    StateView before =
        states.stream().filter(s -> s.id().equals(asked.before())).findFirst().orElse(null);
    VersionFiles.Inside inside =
        before == null || asked.parts().isEmpty()
            ? null
            : files.inside(document.id(), asked.before(), asked.parts().get(0));
    return new LossView(
        document.id(),
        document.path(),
        project,
        asked.before(),
        asked.after(),
        before == null ? null : inside == null ? before.content() : inside.content(),
        inside == null ? null : inside.part(),
        asked.parts(),
        asked.losses(),
        states.stream()
            .filter(s -> s.id().equals(asked.after()))
            .findFirst()
            .map(StateView::workTo)
            .orElse(asked.at()),
        before == null ? 0 : before.size(),
        asked.until(),
        asked.until().isBefore(clock.instant().plus(WARNED_AHEAD)));
  }
}
