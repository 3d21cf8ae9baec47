package dev.kavrin.server.links;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * A file that a document names.
 *
 * @param path of the document in its project
 * @param state of it that names the file, as it stands on disk now or was seen last
 * @param uri as it is written in the document
 * @param file where that leads, a whole path
 * @param absolute true if it is written as a whole path, though a relative one would do
 * @param changed when it was written last, if it is not what it was with this state
 * @param changedBy who wrote it then, empty if the system does not tell
 * @param linked the file as a document of its own, null if Kavrin does not copy it
 * @param users other documents of the project that lean on it
 * @param canRelink true if other names can be written into the document
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record LinkRow(
    UUID document,
    String path,
    String state,
    String uri,
    String file,
    Status status,
    boolean absolute,
    @Nullable Instant changed,
    String changedBy,
    @Nullable UUID linked,
    List<String> users,
    boolean canRelink) {
  /** How it stands. */
  public enum Status {
    FOUND,
    CHANGED,
    MISSING,
    OUTSIDE
  }

  LinkRow usedBy(List<String> others) {
    return new LinkRow(
        document, path, state, uri, file, status, absolute, changed, changedBy, linked, others,
        canRelink);
  }
}
