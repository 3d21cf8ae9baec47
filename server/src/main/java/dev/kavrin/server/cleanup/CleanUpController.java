package dev.kavrin.server.cleanup;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.keep.ClearOut;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobRun;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Being rid of copies at a person's word: shown first, then into the bin. */
@RestController
class CleanUpController implements JobKinds {
  private final JobService jobs;
  private final JobKind<Confirmed> clearing =
      JobKind.once("clear-out", Lane.ASKED, Confirmed.class, this::clearOut);
  private final ProjectService projects;
  private final JournalFollower follower;

  CleanUpController(ProjectService projects, JournalFollower follower, JobService jobs) {
    this.jobs = jobs;
    this.projects = projects;
    this.follower = follower;
  }

  record ClearOutRequest(@NotNull ClearOut wish) {}

  /**
   * @param digest of what was shown to go
   */
  record ClearOutConfirm(@NotNull ClearOut wish, @NotBlank String digest) {}

  /**
   * What would go of a document.
   *
   * @param reach how far its copies reach back now, null without any
   * @param reachThen how far afterwards
   */
  record ClearOutLine(
      UUID document,
      String name,
      int drops,
      long bytes,
      int stays,
      @Nullable Instant reach,
      @Nullable Instant reachThen) {}

  /**
   * @param bytes that become free once the bin lets go, in each recovery folder
   * @param digest of what was shown to go; sent back to do it
   */
  record ClearOutView(List<ClearOutLine> lines, int drops, long bytes, String digest) {}

  /** A document with what would go of it. */
  private record Choice(
      Document document, ClearOut wish, List<KeepState> states, KeepDecision decision) {
    ClearOutLine line() {
      List<KeepState> going =
          states.stream().filter(s -> decision.dropped().contains(s.id())).toList();
      return new ClearOutLine(
          document.id(),
          document.path(),
          going.size(),
          going.stream().mapToLong(KeepState::bytes).sum(),
          states.size() - going.size(),
          oldest(states),
          oldest(states.stream().filter(s -> !going.contains(s)).toList()));
    }

    @Nullable
    private static Instant oldest(List<KeepState> states) {
      return states.stream().map(KeepState::workTime).min(Comparator.naturalOrder()).orElse(null);
    }
  }

  @PostMapping("/api/projects/{id}/clear-out/preview")
  ClearOutView preview(@PathVariable UUID id, @Valid @RequestBody ClearOutRequest request) {
    return view(choices(projects.kept(id), request.wish()));
  }

  @PostMapping("/api/projects/{id}/clear-out")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job clearOut(@PathVariable UUID id, @Valid @RequestBody ClearOutConfirm request, Principal who) {
    return jobs.begin(clearing, id.toString(), new Confirmed(id, request), who.getName());
  }

  /** What a person confirmed. */
  record Confirmed(UUID project, ClearOutConfirm request) {}

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(clearing);
  }

  private ClearOutView clearOut(Confirmed confirmed, JobRun job) throws IOException {
    UUID id = confirmed.project();
    ClearOutConfirm request = confirmed.request();
    Kept kept = projects.kept(id);
    List<Choice> choices = choices(kept, request.wish());
    ClearOutView shown = view(choices);
    if (!shown.digest().equals(request.digest())) {
      throw ProblemException.conflict(
          "changed-meanwhile",
          "Copies came or went meanwhile. Look at it again; nothing was dropped.");
    }
    List<BackupRecord> dropped = new ArrayList<>();
    for (Choice choice : choices) {
      job.at((double) choices.indexOf(choice) / choices.size(), choice.document().path());
      dropped.addAll(
          kept.retention()
              .clearOut(
                  choice.wish(),
                  choice.document().id(),
                  new HashSet<>(choice.decision().dropped()),
                  job.person()));
    }
    follower.follow();
    if (dropped.isEmpty() && shown.drops() > 0) {
      throw ProblemException.conflict(
          "not-dropped",
          "Nothing was dropped: the copy that protects could not be read again, or the folder"
              + " waits for a person.");
    }
    return shown;
  }

  /** Bytes that are needed are shared out by what each document holds. */
  private List<Choice> choices(Kept kept, ClearOut wish) {
    List<Document> documents = projects.documents(kept.project().id());
    List<List<KeepState>> states =
        documents.stream()
            .map(d -> new KeepInputs(kept.folder().history(), d.id()).states())
            .toList();
    long all = states.stream().flatMap(List::stream).mapToLong(KeepState::bytes).sum();
    List<Choice> choices = new ArrayList<>();
    for (int i = 0; i < documents.size() && !wish.isIdle(); i++) {
      long own = states.get(i).stream().mapToLong(KeepState::bytes).sum();
      ClearOut share =
          wish.needing(all == 0 ? 0 : (long) Math.ceil((double) wish.need() * own / all));
      choices.add(
          new Choice(
              documents.get(i),
              share,
              states.get(i),
              kept.retention().decide(share, documents.get(i).id())));
    }
    return choices;
  }

  private static ClearOutView view(List<Choice> choices) {
    List<ClearOutLine> lines =
        choices.stream().map(Choice::line).filter(l -> l.drops() > 0).toList();
    StringBuilder going = new StringBuilder();
    choices.forEach(c -> going.append(c.document().id()).append(c.decision().dropped()));
    return new ClearOutView(
        lines,
        lines.stream().mapToInt(ClearOutLine::drops).sum(),
        lines.stream().mapToLong(ClearOutLine::bytes).sum(),
        ContentHash.of(going.toString()).digest());
  }
}
