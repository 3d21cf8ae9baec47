package dev.kavrin.server.parts;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.compare.PartHistory;
import dev.kavrin.core.compare.PartHistory.Sighting;
import dev.kavrin.core.compare.PartLife;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.health.Readers;
import dev.kavrin.core.restore.PartRestore;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionFiles;
import jakarta.annotation.Nullable;
import jakarta.validation.constraints.DecimalMax;
import jakarta.validation.constraints.DecimalMin;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** When parts came, changed and went. */
@RestController
class PartsController {
  private static final int MOST_FOUND = 200;

  private final PartHistories histories;
  private final ProjectService projects;
  private final VersionFiles files;
  private final Spots spots;

  PartsController(
      PartHistories histories, ProjectService projects, VersionFiles files, Spots spots) {
    this.histories = histories;
    this.projects = projects;
    this.files = files;
    this.spots = spots;
  }

  /**
   * A state in the order of the work, oldest first.
   *
   * @param gap true if nothing of it could be read
   */
  record SightingView(String state, Instant work, boolean gap) {}

  /**
   * A part that filled a spot.
   *
   * @param now true if it does so in the newest state
   * @param state the newest in which it did
   */
  record FillerView(
      int id, String label, String kind, boolean there, boolean now, String state, Instant work) {}

  /**
   * What is and was behind a spot of a picture, latest first.
   *
   * @param all false if not every state that may tell was looked into
   */
  record SpotView(List<FillerView> fillers, boolean all) {}

  /**
   * A state to point at.
   *
   * @param content whose picture it is
   */
  record GroundView(String state, String content) {}

  /**
   * @param id names it in calls about it, until a state comes or is read
   * @param above what it belongs to, null at the top
   * @param first index of the state in which it is seen first
   * @param lastSeen index of the last that has it
   * @param there true if the newest state has it
   * @param size by what parts of its kind are measured by
   * @param stretches from and to of the states that have it, flat
   * @param changes indexes of the states in which something became of it
   * @param why it is not seen in the newest state, in words; empty if it is, or if that state is
   *     damaged and may have it
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record PartLine(
      int id,
      String label,
      String kind,
      @Nullable String above,
      int first,
      int lastSeen,
      boolean there,
      double size,
      String unit,
      List<Integer> stretches,
      List<Integer> changes,
      String why) {}

  /**
   * @param newest index of the newest state that could be read, −1 without one
   * @param newestWhole false if more may be in that than could be read
   * @param since index of the state asked from, −1 for the beginning
   * @param gone ids of parts that stood there then or later and do not any more, largest first
   * @param ground the state one can point at a spot of, null if this kind shows nothing in space
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record PartsView(
      List<SightingView> states,
      List<PartLine> parts,
      int newest,
      boolean newestWhole,
      int since,
      List<Integer> gone,
      @Nullable GroundView ground) {}

  /** What became of a part; "what" says it in one word. */
  record EventView(String state, Instant work, PartLife.What what, String words) {}

  /**
   * @param last state that has it
   * @param lastWork when its work was done
   * @param lastId what it is called in that
   * @param content of that state, to be looked at
   * @param contentId what it is called in the content
   * @param measures as it was last
   * @param newest state that could be read
   * @param takes true if it can be brought into the file of today
   * @param series of what changed at all, for a field or a setting; else none
   */
  record PartView(
      int id,
      String label,
      String kind,
      String last,
      Instant lastWork,
      String lastId,
      String content,
      String contentId,
      boolean there,
      Map<String, Measure> measures,
      List<EventView> events,
      String why,
      String newest,
      boolean takes,
      List<Courses.Series> series) {}

  /**
   * A part found by its name.
   *
   * @param last when the last state that has it was worked on
   */
  record FoundPart(
      UUID document,
      String path,
      String project,
      int id,
      String label,
      String kind,
      boolean there,
      Instant last) {}

  /** The lives of a document's parts, in the order they came. */
  @GetMapping("/api/documents/{id}/parts")
  PartsView parts(@PathVariable UUID id, @RequestParam(required = false) Instant since) {
    PartHistory history = histories.of(id);
    int from = since == null ? -1 : history.asOf(since);
    return new PartsView(
        history.sightings().stream()
            .map(s -> new SightingView(s.state(), s.work(), s.isGap()))
            .toList(),
        history.lives().stream()
            .filter(l -> !l.kind().equals("group"))
            .map(l -> line(l, history.newest(), isWhole(history)))
            .toList(),
        history.newest(),
        isWhole(history),
        from,
        history.gone(from).stream().map(PartLife::number).toList(),
        ground(id, history));
  }

  @Nullable
  private GroundView ground(UUID id, PartHistory history) {
    Readers.Shows shows = Readers.shows(projects.document(id).path());
    if (history.newest() < 0 || shows != Readers.Shows.MODEL && shows != Readers.Shows.DRAWING) {
      return null;
    }
    String state = history.sightings().get(history.newest()).state();
    return new GroundView(state, files.inside(id, state, "").content());
  }

  /** Parts that fill or once filled a spot in the picture of the newest state. */
  @GetMapping("/api/documents/{id}/spot")
  SpotView spot(
      @PathVariable UUID id,
      @RequestParam @DecimalMin("0") @DecimalMax("1") double x,
      @RequestParam @DecimalMin("0") @DecimalMax("1") double y)
      throws IOException {
    PartHistory history = histories.of(id);
    if (history.newest() < 0) {
      throw ProblemException.notFound("No version of it can be looked into.");
    }
    Spots.Found found = spots.at(id, history, history.newest(), x, y);
    return new SpotView(
        found.fillers().stream().map(f -> filler(f, history)).toList(), found.all());
  }

  private static FillerView filler(Spots.Filler filler, PartHistory history) {
    Sighting last = history.sightings().get(filler.last());
    return new FillerView(
        filler.life().number(),
        filler.life().label(),
        filler.life().kind(),
        filler.life().isThere(),
        filler.last() >= history.newest(),
        last.state(),
        last.work());
  }

  private static boolean isWhole(PartHistory history) {
    return history.newest() < 0 || history.sightings().get(history.newest()).whole();
  }

  private static PartLine line(PartLife life, int newest, boolean whole) {
    List<Integer> stretches = new ArrayList<>();
    life.stretches()
        .forEach(
            s -> {
              stretches.add(s.from());
              stretches.add(s.to());
            });
    return new PartLine(
        life.number(),
        life.label(),
        life.kind(),
        life.last().parent(),
        life.first(),
        life.lastSeen(),
        life.isThere(),
        PartHistory.weight(life),
        life.last().measures().containsKey("extent")
            ? life.last().measures().get("extent").unit()
            : "",
        stretches,
        life.events().stream().map(PartLife.Event::at).distinct().toList(),
        whole || !life.isThere() || PartLife.hidden(life.last()) ? life.whyAbsent(newest) : "");
  }

  /** All that became of one part. */
  @GetMapping("/api/documents/{id}/parts/{part}")
  PartView part(@PathVariable UUID id, @PathVariable int part) {
    PartHistory history = histories.of(id);
    if (part < 0 || part >= history.lives().size()) {
      throw ProblemException.notFound("There is no such part in the versions that can be read.");
    }
    PartLife life = history.lives().get(part);
    List<Sighting> all = history.sightings();
    VersionFiles.Inside inside =
        files.inside(id, all.get(life.lastSeen()).state(), life.last().id());
    return new PartView(
        part,
        life.label(),
        life.kind(),
        all.get(life.lastSeen()).state(),
        all.get(life.lastSeen()).work(),
        life.last().id(),
        inside.content(),
        inside.part(),
        life.isThere(),
        life.last().measures(),
        life.events().stream()
            .map(
                e ->
                    new EventView(
                        all.get(e.at()).state(), all.get(e.at()).work(), e.what(), e.words()))
            .toList(),
        life.whyAbsent(history.newest()),
        all.get(history.newest()).state(),
        PartRestore.canTake(projects.document(id).path()),
        Courses.of(life, history));
  }

  /** Parts of all projects that have the words in their name, those that are gone first. */
  @GetMapping("/api/parts")
  List<FoundPart> find(@RequestParam @NotBlank @Size(max = 200) String name) {
    String words = name.strip().toLowerCase(Locale.ROOT);
    List<FoundPart> found = new ArrayList<>();
    for (ProjectService.Project project : projects.all()) {
      for (Document document : projects.documents(project.id())) {
        PartHistory history = histories.of(document.id());
        for (PartLife life : history.lives()) {
          if (!life.kind().equals("group")
              && life.label().toLowerCase(Locale.ROOT).contains(words)) {
            found.add(
                new FoundPart(
                    document.id(),
                    document.path(),
                    project.name(),
                    life.number(),
                    life.label(),
                    life.kind(),
                    life.isThere(),
                    history.sightings().get(life.lastSeen()).work()));
          }
        }
      }
    }
    found.sort(
        Comparator.comparing(FoundPart::there)
            .thenComparing(FoundPart::last, Comparator.reverseOrder()));
    return found.subList(0, Math.min(MOST_FOUND, found.size()));
  }
}
