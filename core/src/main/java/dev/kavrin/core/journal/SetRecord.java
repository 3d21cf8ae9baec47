package dev.kavrin.core.journal;

import com.fasterxml.jackson.annotation.JsonIgnore;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.version.Manifest;
import dev.kavrin.core.version.Runs;
import dev.kavrin.core.version.SetRule.Role;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;

/**
 * One step of a run, as its files stood together at one moment.
 *
 * @param written when the last of its files was written
 * @param settled false if a file changed while they were copied
 * @param lacks what it lacks, in words; empty if it is all there
 * @param note a person's words, or null
 */
public record SetRecord(
    long run,
    long step,
    Instant written,
    List<Member> members,
    boolean settled,
    List<String> lacks,
    String cause,
    @Nullable String note) {

  /**
   * One of its files.
   *
   * @param path relative to the folder of the run
   * @param unit state id of the copy that holds it
   */
  public record Member(Role role, String path, ContentId content, String unit, Instant modified) {}

  public SetRecord {
    members = List.copyOf(members);
    lacks = List.copyOf(lacks);
  }

  /** Names the state: the digest over all its files. */
  @JsonIgnore
  public String state() {
    return new Manifest(
            members.stream()
                .map(m -> new Manifest.Entry(m.role().name(), m.path(), m.content()))
                .toList())
        .digest();
  }

  /** Its files of a role, by path; several where a step is split. */
  public List<Member> members(Role role) {
    return members.stream().filter(m -> m.role() == role).toList();
  }

  public boolean has(Role role) {
    return !members(role).isEmpty();
  }

  @JsonIgnore
  public Runs.Step place() {
    return new Runs.Step(run, step, written);
  }
}
