package dev.kavrin.core.journal;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.version.SetRule;
import jakarta.annotation.Nullable;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Stream;

/**
 * A project as a journal keeps it: enough to go on without the database.
 *
 * @param slug its folder name in the recovery folder
 * @param folder absolute path of the work
 * @param rule file name globs that make a file a document
 * @param sets which files of a run belong together, or null if documents are single files
 * @param exceptions plans of documents that do not follow the project's
 * @param recovery absolute path of the recovery folder
 * @param also absolute paths of further recovery folders; each takes every copy
 * @param leaving the one of them whose copies are being moved to the others, or null
 * @param zone of the people, for names and hours
 */
public record ProjectRecord(
    UUID id,
    String name,
    String slug,
    String folder,
    List<String> rule,
    @Nullable SetRule sets,
    ProgramProfile program,
    Plan plan,
    Map<UUID, Plan> exceptions,
    String recovery,
    List<String> also,
    @Nullable String leaving,
    String zone) {

  public ProjectRecord {
    also = also == null ? List.of() : List.copyOf(also);
    exceptions = exceptions == null ? Map.of() : Map.copyOf(exceptions);
  }

  /**
   * A new one: single files, one plan for all.
   *
   * @param recoveries absolute paths, at least one
   */
  public static ProjectRecord of(
      UUID id,
      String name,
      String slug,
      String folder,
      List<String> rule,
      ProgramProfile program,
      Plan plan,
      List<String> recoveries,
      String zone) {
    return new ProjectRecord(
        id,
        name,
        slug,
        folder,
        rule,
        null,
        program,
        plan,
        Map.of(),
        recoveries.get(0),
        recoveries.subList(1, recoveries.size()),
        null,
        zone);
  }

  /** All recovery folders, the first asked first. */
  public List<String> recoveries() {
    return Stream.concat(Stream.of(recovery), also.stream()).distinct().toList();
  }

  /** True if a file is a document by its name, wherever it lies. */
  public boolean takes(Path file) {
    return rule.stream()
        .map(glob -> FileSystems.getDefault().getPathMatcher("glob:" + glob))
        .anyMatch(matcher -> matcher.matches(file.getFileName()));
  }

  public ProjectRecord withSlug(String other) {
    return new ProjectRecord(
        id,
        name,
        other,
        folder,
        rule,
        sets,
        program,
        plan,
        exceptions,
        recovery,
        also,
        leaving,
        zone);
  }

  public ProjectRecord with(ProgramProfile sheet, Plan changed) {
    return new ProjectRecord(
        id,
        name,
        slug,
        folder,
        rule,
        sets,
        sheet,
        changed,
        exceptions,
        recovery,
        also,
        leaving,
        zone);
  }

  /** The same with another rule for what its documents are. */
  public ProjectRecord joining(List<String> globs, @Nullable SetRule runs) {
    return new ProjectRecord(
        id,
        name,
        slug,
        folder,
        globs,
        runs,
        program,
        plan,
        exceptions,
        recovery,
        also,
        leaving,
        zone);
  }

  /** True if a document is the set-up of a run. */
  public boolean isRun(String documentPath) {
    return sets != null && sets.isSetup(Path.of(documentPath).getFileName().toString());
  }

  /** The plan a document is copied and kept by. */
  public Plan planFor(UUID document) {
    return exceptions.getOrDefault(document, plan);
  }

  /** The same where nothing but these counts says what is kept. */
  public ProjectRecord keptBy(Counts counts) {
    return new ProjectRecord(
        id,
        name,
        slug,
        folder,
        rule,
        sets,
        program,
        plan.with(counts),
        Map.of(),
        recovery,
        also,
        leaving,
        zone);
  }

  /** The same with a plan of its own for one document, or with null by the project's again. */
  public ProjectRecord except(UUID document, @Nullable Plan own) {
    Map<UUID, Plan> changed = new HashMap<>(exceptions);
    if (own == null) {
      changed.remove(document);
    } else {
      changed.put(document, own);
    }
    return new ProjectRecord(
        id, name, slug, folder, rule, sets, program, plan, changed, recovery, also, leaving, zone);
  }

  /** The same on another machine, its work in another folder. */
  public ProjectRecord movedTo(String work, String backups) {
    return new ProjectRecord(
        id,
        name,
        slug,
        work,
        rule,
        sets,
        program,
        plan,
        exceptions,
        backups,
        List.of(),
        null,
        zone);
  }

  /** The same with other recovery folders, at least one. */
  public ProjectRecord keptIn(List<String> folders, @Nullable String moving) {
    return new ProjectRecord(
        id,
        name,
        slug,
        folder,
        rule,
        sets,
        program,
        plan,
        exceptions,
        folders.get(0),
        folders.subList(1, folders.size()),
        moving,
        zone);
  }
}
