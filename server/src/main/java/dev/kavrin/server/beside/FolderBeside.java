package dev.kavrin.server.beside;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.annotation.Nullable;
import java.util.List;

/**
 * A folder that the work of a project needs and that lies outside of it.
 *
 * @param rule names of the files that are meant, as a project over that folder takes them
 * @param files how many of them are there now
 * @param bytes they have together
 * @param allowed false if it lies outside the folders that Kavrin may look into
 * @param backedUpBy the project that backs it up, null if none does
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
record FolderBeside(
    Why why,
    String folder,
    List<String> rule,
    int files,
    long bytes,
    boolean allowed,
    @Nullable String backedUpBy) {
  /** What makes it needed. */
  enum Why {
    /** The program's templates, presets and the like lie there. */
    OWN_FILES,
    /** Documents link to files there. */
    LINKED
  }
}
