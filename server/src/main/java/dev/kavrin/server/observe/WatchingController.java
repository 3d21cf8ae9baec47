package dev.kavrin.server.observe;

import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.Reminder;
import dev.kavrin.core.profile.FileEvent;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.profile.Proposal;
import dev.kavrin.core.settings.SettingsLink;
import dev.kavrin.server.plan.UsualPlan;
import dev.kavrin.server.program.ProgramAudits;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Getting started: watching what a program does, and what that proposes. */
@RestController
class WatchingController {
  private static final int EVENTS = 12;

  private final WatchingService watchings;
  private final ProgramAudits audits;
  private final UsualPlan usual;

  WatchingController(WatchingService watchings, ProgramAudits audits, UsualPlan usual) {
    this.watchings = watchings;
    this.audits = audits;
    this.usual = usual;
  }

  /**
   * @param also more folders to watch
   */
  record WatchRequest(@NotBlank String folder, @NotNull List<@NotBlank String> also) {}

  /** Something that happened while watching. */
  record Happening(Instant at, String path, FileEvent.Kind kind, long size) {}

  /**
   * What is proposed, and what it rests on.
   *
   * @param document seen from the work folder, null if none can be told
   * @param documents what it could be instead, seen from there
   * @param size bytes of the document
   * @param plan the usual one, with a reminder if the program was never seen to write by itself
   */
  record Proposed(
      ProgramProfile sheet,
      @Nullable String document,
      List<String> documents,
      long size,
      List<String> rule,
      List<Proposal.Clue> clues,
      boolean writesItself,
      Plan plan) {}

  /**
   * A watch as it stands.
   *
   * @param goesOn false once its time is over
   * @param closed true if the program was seen to be closed
   * @param cut true if there were more files than are watched
   */
  record WatchView(
      UUID id,
      List<String> folders,
      Instant from,
      boolean goesOn,
      boolean closed,
      boolean cut,
      List<Happening> latest,
      Proposed proposed) {}

  @PostMapping("/api/watchings")
  @ResponseStatus(HttpStatus.CREATED)
  WatchView begin(@Valid @RequestBody WatchRequest request) {
    return view(watchings.begin(request.folder(), request.also()));
  }

  /**
   * @param document the one the person says, seen from the work folder
   */
  @GetMapping("/api/watchings/{id}")
  WatchView stand(@PathVariable UUID id, @RequestParam(required = false) String document) {
    return view(watchings.stand(id, document));
  }

  @DeleteMapping("/api/watchings/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(@PathVariable UUID id) {
    watchings.end(id);
  }

  private WatchView view(WatchingService.Stand stand) {
    Proposal proposal = stand.proposal();
    Path work = stand.seen().work();
    List<Happening> latest =
        WatchingService.latest(stand.seen(), EVENTS).stream()
            .map(e -> new Happening(e.at(), shown(work, e.path()), e.kind(), e.facts().size()))
            .toList();
    Path document = proposal.document();
    SettingsLink settings = watchings.settings(stand).orElse(null);
    List<Proposal.Clue> clues = new ArrayList<>(proposal.clues());
    if (settings != null) {
      clues.add(
          new Proposal.Clue(
              Proposal.Topic.SETTINGS,
              settings.file(),
              "it was started with this file: " + String.join("; ", audits.inWords(settings)),
              true));
    }
    return new WatchView(
        stand.id(),
        stand.folders().stream().map(Path::toString).toList(),
        stand.seen().from(),
        stand.goesOn(),
        closed(stand),
        stand.seen().cut(),
        latest,
        new Proposed(
            proposal.sheet().linked(settings),
            document == null ? null : shown(work, document),
            proposal.documents().stream().map(d -> shown(work, d)).toList(),
            document == null ? 0 : stand.seen().size(document),
            proposal.rule(),
            clues,
            proposal.writesItself(),
            plan(proposal)));
  }

  private static boolean closed(WatchingService.Stand stand) {
    String words = stand.proposal().sheet().process();
    return stand.proposal().clues().stream()
            .anyMatch(c -> c.topic() == Proposal.Topic.SIGN && c.sure())
        || !words.isEmpty()
            && stand.seen().processes().stream()
                .anyMatch(r -> r.to() != null && String.join(" ", r.arguments()).contains(words));
  }

  private Plan plan(Proposal proposal) {
    Plan plan = usual.present();
    return proposal.writesItself() ? plan : plan.reminding(Reminder.proposed(plan.accepted()));
  }

  private static String shown(Path work, Path path) {
    return path.startsWith(work) ? RelativePath.of(work, path) : path.toString();
  }
}
