package dev.kavrin.server.version;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.core.units.Moments;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.KnownVersions.KnownVersion;
import dev.kavrin.server.version.KnownVersions.Member;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.data.domain.Limit;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The files behind states: a reachable copy of each, and what it is properly called. */
@Service
public class VersionFiles {
  private static final Comparator<CopyRow> OURS =
      Comparator.comparing(c -> !CopyKind.valueOf(c.sourceKind).isOurs());
  private static final Comparator<CopyRow> BEST =
      Comparator.comparing((CopyRow c) -> !c.isFull()).thenComparing(OURS);

  private final ProjectService projects;
  private final FolderService places;
  private final Disk disk;
  private final KnownVersions states;
  private final VersionRows.States rows;
  private final VersionRows.Contents contents;
  private final VersionRows.Copies copies;

  VersionFiles(
      ProjectService projects,
      FolderService places,
      Disk disk,
      KnownVersions states,
      VersionRows.States rows,
      VersionRows.Contents contents,
      VersionRows.Copies copies) {
    this.projects = projects;
    this.places = places;
    this.disk = disk;
    this.states = states;
    this.rows = rows;
    this.contents = contents;
    this.copies = copies;
  }

  /**
   * The files of a step with a reachable copy of each.
   *
   * @throws ProblemException one has none
   */
  public List<StepLayout.Piece> pieces(UUID id, String state) {
    Document document = projects.document(id);
    return held(document, state).standing().stream().map(this::piece).toList();
  }

  /** A file that holds something, as it was when it was read. */
  public record Place(Path file, long size, Instant modified) {}

  /**
   * A file of a state.
   *
   * @param path in the project, of a step's file from the folder of its run
   * @param places where it can be reached, the best first: whole before light, Kavrin's own before
   *     others
   */
  public record StateFile(String path, List<Place> places) {}

  /** The files of every state of a document, by state. */
  public Map<String, List<StateFile>> all(UUID id) {
    Document document = projects.document(id);
    Map<String, List<StateFile>> all = new HashMap<>();
    for (KnownVersion held :
        states.of(List.of(document.key())).getOrDefault(document.key(), List.of())) {
      all.put(
          held.row().manifestDigest,
          held.standing().stream()
              .map(
                  m ->
                      new StateFile(
                          m.role() == null ? document.path() : m.path(),
                          reachable(m, BEST).map(VersionFiles::place).toList()))
              .toList());
    }
    return all;
  }

  private record Reached(CopyRow copy, Path file) {}

  private static Place place(Reached reached) {
    return new Place(reached.file(), reached.copy().size, Moments.ofNanos(reached.copy().modified));
  }

  private Stream<Reached> reachable(Member member, Comparator<CopyRow> order) {
    return member.copies().stream()
        .filter(c -> c.fault == null)
        .sorted(order)
        .flatMap(
            c ->
                places
                    .byKey(c.placeId)
                    .map(p -> new Reached(c, p.path().resolve(c.relPath)))
                    .stream())
        .filter(r -> disk.isFile(r.file()));
  }

  /** One side of a comparison: a reachable file, its proper name, what it holds. */
  public record Side(String content, Path file, String name) {}

  /**
   * Two files to hold against each other.
   *
   * @param what both are in their step, such as {@code restart}
   */
  public record Sides(String what, Side a, Side b) {
    public boolean isSetup() {
      return what.equals("setup");
    }
  }

  /**
   * What to compare of two states, the most telling first: of steps result, restart file and
   * set-up, as far as both have one; a set-up alone is held against a step's.
   */
  public List<Sides> sides(UUID id, String a, String b) {
    Document document = projects.document(id);
    Map<String, Member> inA = held(document, a).named();
    Map<String, Member> inB = held(document, b).named();
    List<Sides> sides = new ArrayList<>();
    inA.forEach(
        (what, left) -> {
          if (inB.containsKey(what)) {
            sides.add(new Sides(what, side(document, left), side(document, inB.get(what))));
          }
        });
    if (sides.isEmpty()) {
      throw ProblemException.badInput(
          "nothing-in-common", "The two versions have no file in common that could be compared.");
    }
    return sides;
  }

  private KnownVersion held(Document document, String state) {
    return states.of(List.of(document.key())).getOrDefault(document.key(), List.of()).stream()
        .filter(h -> h.row().manifestDigest.equals(state))
        .findFirst()
        .orElseThrow(() -> ProblemException.notFound("That version does not exist any more."));
  }

  /** The most telling file of a state, to hold another file against. */
  public Side side(UUID id, String state) {
    Document document = projects.document(id);
    KnownVersion held = held(document, state);
    return held.named().values().stream()
        .findFirst()
        .map(m -> side(document, m))
        .orElseThrow(() -> ProblemException.notFound("No copy of that version can be reached."));
  }

  /**
   * A part where it can be looked at.
   *
   * @param content that has it
   * @param part what it is called in that
   */
  public record Inside(String content, String part) {}

  /**
   * Where a part of a state lies; of a step it begins with what its file is in that.
   *
   * @throws ProblemException the state has no such file any more
   */
  @Transactional(readOnly = true)
  public Inside inside(UUID id, String state, String part) {
    KnownVersion held = held(projects.document(id), state);
    if (!held.isStep()) {
      return new Inside(held.shown().content().id(), part);
    }
    String what = part.substring(0, Math.max(0, part.indexOf('/')));
    return Optional.ofNullable(held.named().get(what))
        .map(m -> new Inside(m.content().id(), part.substring(what.length() + 1)))
        .orElseThrow(() -> ProblemException.notFound("No copy of that version can be reached."));
  }

  /** The state of a document that holds exactly that content; empty if none stands. */
  @Transactional(readOnly = true)
  public Optional<String> stateOf(UUID id, String content) {
    Document document = projects.document(id);
    return states.of(List.of(document.key())).getOrDefault(document.key(), List.of()).stream()
        .filter(h -> h.standing().stream().anyMatch(m -> m.content().id().equals(content)))
        .map(h -> h.row().manifestDigest)
        .findFirst();
  }

  private Side side(Document document, Member member) {
    String name = member.role() == null ? document.path() : member.path();
    return new Side(
        member.content().id(), piece(member).source(), Path.of(name).getFileName().toString());
  }

  private StepLayout.Piece piece(Member member) {
    Path source =
        reachable(member, OURS)
            .map(Reached::file)
            .findFirst()
            .orElseThrow(
                () ->
                    ProblemException.away(
                        "No copy of " + member.path() + " can be reached. Nothing was touched.",
                        null));
    return new StepLayout.Piece(source, ContentId.parse(member.content().id()), member.path());
  }

  /**
   * What a document's states are known by.
   *
   * @param files whole, reachable ones, each of another state, spread over the trail
   * @param parts fingerprints of what is inside of those
   */
  public record KnownBy(List<Path> files, Set<String> parts) {}

  public KnownBy knownBy(UUID id, int most) {
    Document document = projects.document(id);
    List<KnownVersion> held =
        states.of(List.of(document.key())).getOrDefault(document.key(), List.of());
    int every = Math.max(1, held.size() / most);
    List<Path> files = new ArrayList<>();
    Set<String> parts = new HashSet<>();
    for (int i = held.size() - 1; i >= 0; i -= every) {
      Member member = held.get(i).shown();
      parts.addAll(member.content().fingerprints());
      reachable(member, BEST)
          .filter(r -> r.copy().isFull())
          .map(Reached::file)
          .findFirst()
          .ifPresent(files::add);
    }
    return new KnownBy(files, parts);
  }

  /** A reachable file holding a content, with an ending that tells its kind. */
  public Optional<Path> fileOf(ContentId content) {
    List<Long> keys =
        contents.findByLengthAndDigest(content.length(), content.digest()).stream()
            .map(c -> c.id)
            .toList();
    return copies.findByContentIdInAndGoneIsNull(keys).stream()
        .sorted(Comparator.comparing(c -> !CopyKind.valueOf(c.sourceKind).isOurs()))
        .flatMap(c -> places.byKey(c.placeId).map(p -> p.path().resolve(c.relPath)).stream())
        .filter(disk::isFile)
        .findFirst();
  }

  /**
   * A document whose trail holds a content, with the state that does.
   *
   * @param document its place in the records
   */
  public record Holder(long document, String state, Instant work) {}

  @Transactional(readOnly = true)
  public List<Holder> holders(ContentId content) {
    List<Long> keys =
        contents.findByLengthAndDigest(content.length(), content.digest()).stream()
            .map(c -> c.id)
            .toList();
    return copies.findByContentIdInAndGoneIsNull(keys).stream()
        .map(c -> c.stateId)
        .distinct()
        .flatMap(id -> rows.findById(id).stream())
        .map(s -> new Holder(s.documentId, s.manifestDigest, Moments.ofNanos(s.workHi)))
        .toList();
  }

  /** A content that was looked into, by its place in the records. */
  public record Read(long key, ContentId content) {}

  /** Contents that were looked into and recorded after one, in their order. */
  @Transactional(readOnly = true)
  public List<Read> readSince(long key, int most) {
    return contents.read(key, Limit.of(most)).stream()
        .map(c -> new Read(c.id(), ContentId.parse(c.length() + "-" + c.digest())))
        .toList();
  }

  /** What a file with that content is called, with the ending its document has. */
  public String nameOf(ContentId content, Path file) {
    return contents.findByLengthAndDigest(content.length(), content.digest()).stream()
        .map(row -> row.ext)
        .filter(ext -> ext != null && !ext.isEmpty())
        .findFirst()
        .map(ext -> "file." + ext)
        .orElse(file.getFileName().toString());
  }
}
