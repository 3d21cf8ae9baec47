package dev.kavrin.server.bundle;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;

/**
 * A file that goes along.
 *
 * @param path in the bundle, the same as in the project as far as it can stand anywhere
 * @param original in the project, or a whole path if it lies outside
 * @param kind "document", "linked" or "step"
 * @param source where it is read
 * @param state of the document, null for a linked file
 * @param work when the work in it was done, null for a linked file
 * @param asNow true if no copy of then is held and the file of now goes along
 * @param ask why it goes along only if a person says so: {@link #OUTSIDE} or {@link #SECRET}; null
 *     if it does
 * @param names other names written into it, so that its links lead to files of the bundle
 * @param cannot names that should be written and cannot be in files of its kind
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record PackedFile(
    String path,
    String original,
    String kind,
    UUID document,
    String source,
    long size,
    @Nullable String state,
    @Nullable Instant work,
    boolean asNow,
    @Nullable String ask,
    Map<String, String> names,
    List<String> cannot) {
  static final String OUTSIDE = "outside";
  static final String SECRET = "secret";

  boolean isDocument() {
    return kind.equals("document");
  }
}
