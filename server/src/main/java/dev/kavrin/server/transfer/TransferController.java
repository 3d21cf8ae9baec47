package dev.kavrin.server.transfer;

import com.networknt.schema.Error;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import dev.kavrin.core.plan.Difference;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.server.notification.NotificationService;
import dev.kavrin.server.plan.UsualPlan;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.program.ImportedProfile;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.transfer.TransferFile.CarriedProject;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.io.InputStream;
import java.security.Principal;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.core.io.ClassPathResource;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Carries what was set to another machine, as one file; the difference is shown first. */
@RestController
class TransferController {
  private static final ClassPathResource SCHEMA = new ClassPathResource("settings.schema.json");
  private static final int TOLD = 5;

  private final ProjectService projects;
  private final UsualPlan usual;
  private final NotificationService telling;
  private final JsonMapper mapper;
  private final InstantSource clock;
  private final Schema schema;

  TransferController(
      ProjectService projects,
      UsualPlan usual,
      NotificationService telling,
      JsonMapper mapper,
      InstantSource clock)
      throws IOException {
    this.projects = projects;
    this.usual = usual;
    this.telling = telling;
    this.mapper = mapper;
    this.clock = clock;
    try (InputStream in = SCHEMA.getInputStream()) {
      this.schema =
          SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12).getSchema(in);
    }
  }

  record CarriedRequest(@NotNull JsonNode document) {}

  /**
   * @param usual whether to take the plan for new projects
   * @param telling whether to take how people are told
   * @param projects names of those to take
   */
  record TakeRequest(
      @NotNull JsonNode document, boolean usual, boolean telling, @NotNull List<String> projects) {}

  /**
   * What taking it would change.
   *
   * @param here the project of that name here, null if there is none
   * @param untaken what has to be confirmed by hand and is left out
   */
  record ProjectDifference(
      String name, @Nullable UUID here, List<String> changes, List<String> untaken) {}

  record CarriedDifference(
      List<String> usual, List<String> telling, List<ProjectDifference> projects) {}

  @GetMapping("/api/settings")
  ResponseEntity<TransferFile> export() {
    TransferFile all =
        new TransferFile(
            TransferFile.FORMAT,
            1,
            clock.instant(),
            usual.present(),
            telling.shown(),
            projects.all().stream().map(this::carried).toList());
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"kavrin-settings.json\"")
        .body(all);
  }

  private CarriedProject carried(ProjectService.Project p) {
    return new CarriedProject(
        p.name(), p.folder(), p.rule(), p.sets(), p.program(), p.plan(), exceptions(p));
  }

  private Map<String, Plan> exceptions(ProjectService.Project p) {
    return projects.documents(p.id()).stream()
        .filter(d -> p.exceptions().containsKey(d.id()))
        .collect(Collectors.toMap(Document::path, d -> p.exceptions().get(d.id())));
  }

  @GetMapping("/api/settings/schema")
  @ApiResponse(
      responseCode = "200",
      content = @Content(schema = @io.swagger.v3.oas.annotations.media.Schema(type = "object")))
  ResponseEntity<ClassPathResource> schema() {
    return ResponseEntity.ok().contentType(MediaType.APPLICATION_JSON).body(SCHEMA);
  }

  @PostMapping("/api/settings/compare")
  CarriedDifference compare(@Valid @RequestBody CarriedRequest request) {
    TransferFile carried = read(request.document());
    return new CarriedDifference(
        carried.usualPlan() == null
            ? List.of()
            : Difference.of(usual.present(), carried.usualPlan()),
        carried.telling() == null ? List.of() : Difference.of(telling.shown(), carried.telling()),
        carried.projects().stream().map(this::difference).toList());
  }

  @PostMapping("/api/settings/take")
  CarriedDifference take(@Valid @RequestBody TakeRequest request, Principal who)
      throws IOException {
    TransferFile carried = read(request.document());
    if (request.usual() && carried.usualPlan() != null) {
      usual.set(carried.usualPlan());
    }
    if (request.telling() && carried.telling() != null) {
      telling.set(carried.telling());
    }
    for (CarriedProject project : carried.projects()) {
      Optional<ProjectService.Project> here = here(project);
      if (request.projects().contains(project.name()) && here.isPresent()) {
        take(project, here.get(), who.getName());
      }
    }
    return compare(new CarriedRequest(request.document()));
  }

  private void take(CarriedProject carried, ProjectService.Project here, String who)
      throws IOException {
    ProjectService.Project present =
        projects.change(
            here.id(),
            here.version(),
            carried.plan(),
            new ImportedProfile(carried.program(), here.program()).taken(Set.of()),
            who);
    if (!Objects.equals(present.sets(), carried.sets())) {
      present = projects.joinRuns(present.id(), present.version(), carried.sets(), who);
    }
    for (Document document : projects.documents(here.id())) {
      Plan own = carried.exceptions().get(document.path());
      if (!Objects.equals(own, present.exceptions().get(document.id()))) {
        present = projects.except(document.id(), present.version(), own, who);
      }
    }
  }

  private TransferFile read(JsonNode document) {
    List<Error> errors = schema.validate(document);
    if (!errors.isEmpty()) {
      throw ProblemException.badInput(
          "not-settings",
          "That is no settings file of Kavrin. "
              + String.join(" ", errors.stream().limit(TOLD).map(e -> e.toString() + ".").toList())
              + " Nothing was changed.");
    }
    try {
      return mapper.treeToValue(document, TransferFile.class);
    } catch (JacksonException unfit) {
      throw ProblemException.badInput(
          "not-settings", unfit.getOriginalMessage() + ". Nothing was changed.");
    }
  }

  private Optional<ProjectService.Project> here(CarriedProject carried) {
    return projects.all().stream().filter(p -> p.name().equals(carried.name())).findFirst();
  }

  private ProjectDifference difference(CarriedProject carried) {
    ProjectService.Project here = here(carried).orElse(null);
    if (here == null) {
      return new ProjectDifference(
          carried.name(), null, List.of(), List.of("no project of that name is here"));
    }
    List<String> changes = new ArrayList<>(Difference.of(here.plan(), carried.plan()));
    ImportedProfile sheet = new ImportedProfile(carried.program(), here.program());
    changes.addAll(sheet.changes(Set.of()));
    return new ProjectDifference(carried.name(), here.id(), changes, untaken(sheet));
  }

  private static List<String> untaken(ImportedProfile sheet) {
    return sheet.outside().stream()
        .map(path -> path + ": confirm that path by hand; what is known here stays as it is")
        .toList();
  }
}
