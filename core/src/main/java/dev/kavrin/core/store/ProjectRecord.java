package dev.kavrin.core.store;

import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.trail.ProgramSheet;
import java.util.List;
import java.util.UUID;

/**
 * A project as a journal keeps it: enough to go on without the database.
 *
 * @param slug its folder name in the recovery folder
 * @param folder absolute path of the work
 * @param rule file name globs that make a file a document
 * @param recovery absolute path of the recovery folder
 * @param zone of the people, for names and hours
 */
public record ProjectRecord(
    UUID id,
    String name,
    String slug,
    String folder,
    List<String> rule,
    ProgramSheet program,
    Plan plan,
    String recovery,
    String zone) {}
