package dev.kavrin.server.version;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.backup.RunStatus;
import dev.kavrin.core.content.Finding;
import dev.kavrin.server.backup.Kept;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;

/**
 * What is known of a document's states.
 *
 * @param count of all states
 * @param states the newest in full, newest work first; the others are asked for in pages
 * @param older copies of the states that are not among them, neighbours gathered
 * @param chain documents of its save-as chain, itself included, by rising number
 * @param bin copies that can still be had back
 */
public record VersionsView(
    UUID document,
    UUID project,
    String projectName,
    String name,
    String path,
    Count count,
    List<StateView> states,
    List<Gathered> older,
    List<Activity> activity,
    List<Watched> watched,
    List<BinnedCopy> bin,
    List<AtStore> elsewhere,
    List<Place> lookedAt,
    Exposure exposure,
    @Nullable Live live,
    List<Link> chain) {

  /** States in one answer. */
  static final int PAGE = 400;

  /**
   * What all states come to.
   *
   * @param copies files that hold them
   * @param bytes those take
   * @param folders they lie in
   * @param oldest when the work in the oldest was done, null without states
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  public record Count(int states, int copies, long bytes, int folders, @Nullable Instant oldest) {
    static Count of(List<StateView> states) {
      Map<UUID, Long> sizes = new HashMap<>();
      Set<String> folders = new HashSet<>();
      for (StateView state : states) {
        for (CopyView copy : state.copies()) {
          sizes.put(copy.id(), copy.size());
          folders.add(copy.path().substring(0, copy.path().lastIndexOf('/')));
        }
      }
      return new Count(
          states.size(),
          sizes.size(),
          sizes.values().stream().mapToLong(Long::longValue).sum(),
          folders.size(),
          states.isEmpty() ? null : states.get(states.size() - 1).workTo());
    }
  }

  /** Another document of the same save-as chain. */
  public record Link(UUID id, String name) {}

  /**
   * One state.
   *
   * @param id manifest digest
   * @param parts parts that can be read, null if the kind has none or nobody looked yet
   * @param sizeChange against the state before it, null for the oldest
   * @param step null for a plain file
   * @param keptBecause why the plan keeps it; empty if no copy of Kavrin's holds it
   * @param toldBy on what its time rests, in words; null for a step of a run
   * @param contradictions what says otherwise, in words
   * @param orderKnown false if nothing tells whether it is older or newer than its neighbours
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  public record StateView(
      String id,
      String content,
      Instant workFrom,
      Instant workTo,
      long size,
      @Nullable Long sizeChange,
      String verdict,
      List<Finding> findings,
      @Nullable Long parts,
      @Nullable Long partsTotal,
      @Nullable Long partsChange,
      @JsonIgnore List<String> labels,
      @JsonIgnore List<String> names,
      List<Leaned> links,
      List<CopyView> copies,
      List<Mark> marks,
      String keptBecause,
      @Nullable Step step,
      @Nullable String toldBy,
      List<String> contradictions,
      boolean orderKnown) {}

  /**
   * A file the state leans on.
   *
   * @param path relative to the project folder, or as the file names it
   * @param held what it held then is copied too; null while nobody looked
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  public record Leaned(String path, @Nullable Boolean held) {}

  /**
   * What makes a state a step of a run.
   *
   * @param lacks what of it is not there, in words; empty if it can be gone on from
   */
  public record Step(
      long run, long step, List<String> lacks, boolean settled, List<StepFile> members) {}

  /**
   * One of a step's files.
   *
   * @param path relative to the folder of the run
   * @param held true if a copy of it stands
   */
  public record StepFile(String role, String path, long size, String verdict, boolean held) {}

  /**
   * One file that holds the state, or a part of it.
   *
   * @param role what it is in its run, null for a plain file
   * @param leftOut what a light copy lacks, in words; empty for a full one
   * @param compacted true if no file of its name stands there, and a recipe does
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  public record CopyView(
      UUID id,
      @Nullable String role,
      long size,
      List<String> leftOut,
      String kind,
      String originKind,
      String path,
      String originPath,
      long sequence,
      String cause,
      @Nullable String note,
      boolean settled,
      boolean compacted,
      @Nullable String fault,
      Instant modified,
      Instant since) {}

  public record Mark(String mark, @Nullable String who, @Nullable String note, Instant made) {}

  /** A write of the live file; state is empty if no copy tells what it held. */
  public record Activity(Instant modified, long size, String state) {}

  public record Watched(Instant from, Instant to) {}

  /**
   * A copy in a store elsewhere that was read back there.
   *
   * @param state whose copy it is; it need not stand among the states, if only the store has it
   * @param work when the work in it was done, as far as its name or another copy tells
   * @param verdict of the state, as its copies here tell
   * @param store as a person calls it
   */
  public record AtStore(
      String state,
      String verdict,
      Instant work,
      long size,
      String store,
      String object,
      Instant verified) {}

  public record BinnedCopy(UUID id, String bin, String name, long size, Instant since) {}

  public record Place(String folder, int files, boolean reachable) {}

  /**
   * What would be lost; durations as the moment since when. They grow while the program runs, and
   * stand still otherwise.
   *
   * @param at when this was worked out
   * @param programDiesSince null if nothing tells
   * @param fileLostSince null if there is no other copy
   * @param open whether it is open, and what says so
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  public record Exposure(
      Instant at,
      @Nullable Instant programDiesSince,
      @Nullable Instant fileLostSince,
      boolean quiet,
      Kept.OpenNow open,
      long acceptedSeconds) {}

  /**
   * How the live file stands by the watch.
   *
   * @param everSaved false for a document that was never saved
   */
  public record Live(
      boolean present,
      boolean everSaved,
      @Nullable Instant modified,
      long size,
      @Nullable Instant pendingSince,
      @Nullable String heldBy,
      @Nullable Instant heldSince,
      boolean awaited,
      @Nullable String problem,
      @Nullable RunStatus run) {}
}
