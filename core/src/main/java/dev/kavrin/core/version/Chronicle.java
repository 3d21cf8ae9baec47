package dev.kavrin.core.version;

import dev.kavrin.core.naming.Conventions;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.LocalTimes;
import dev.kavrin.core.naming.NameFields;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.units.Span;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/** Gathers what the copies of one document tell of their order, and puts their states in it. */
public final class Chronicle {
  private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM HH:mm");
  private static final int PADDED = 3;
  private static final int FEWEST_IN_BURST = 3;
  private static final Duration BURST = Duration.ofSeconds(3);

  private final ZoneId zone;

  /**
   * @param zone in which the place's people live
   */
  public Chronicle(ZoneId zone) {
    this.zone = zone;
  }

  /**
   * A copy with all that it tells.
   *
   * @param state whose copy it is
   * @param modified as the file system says, the clock of its place set right
   * @param noticed when Kavrin first saw it, null if nobody knows; work is never later
   * @param elsewhere true if it lies where its program writes none, so that somebody copied it
   * @param pattern its name was read by, null if by none
   * @param fields what the name tells
   * @param seen when Kavrin saw the state as new, null if it did not
   * @param inside the time that stands in the file, null if none does
   * @param step of the solver that stands in the file, null if none does
   */
  public record Copy(
      String state,
      Path path,
      Instant modified,
      @Nullable Instant noticed,
      boolean elsewhere,
      @Nullable NamePattern pattern,
      NameFields fields,
      @Nullable Span seen,
      @Nullable Instant inside,
      @Nullable Long step) {
    private boolean isFromTheFuture() {
      return noticed != null && modified.isAfter(noticed);
    }

    /** The latest moment at which its work can have been done, as far as its file tells. */
    private Instant latest() {
      return isFromTheFuture() ? noticed : modified;
    }

    private boolean tellsNothingButItsTime() {
      return seen == null && inside == null && fields.time() == null;
    }
  }

  /** Oldest first. */
  public List<VersionOrder.Placed> order(List<Copy> copies) {
    Map<String, List<Evidence>> evidence = new LinkedHashMap<>();
    for (Copy copy : copies) {
      evidence.computeIfAbsent(copy.state(), k -> new ArrayList<>()).addAll(of(copy));
    }
    List<VersionOrder.Told> told = new ArrayList<>();
    evidence.forEach((state, all) -> told.add(new VersionOrder.Told(state, all)));
    return VersionOrder.of(told, families(copies), unreliable(copies), this::read);
  }

  /**
   * States of whose copies no time tells anything: copied in one go, brought elsewhere by somebody,
   * or dated in the future.
   */
  private static Set<String> unreliable(List<Copy> copies) {
    Map<Path, List<Copy>> byFolder =
        copies.stream().collect(Collectors.groupingBy(c -> c.path().getParent()));
    Set<String> reset = new HashSet<>();
    Set<String> dated = new HashSet<>();
    for (List<Copy> folder : byFolder.values()) {
      List<Copy> plain =
          folder.stream()
              .filter(Copy::tellsNothingButItsTime)
              .sorted(Comparator.comparing(Copy::modified))
              .toList();
      for (int i = 0; i < plain.size(); i++) {
        Copy copy = plain.get(i);
        boolean lost = copy.elsewhere() || copy.isFromTheFuture() || isInBurst(plain, i);
        (lost ? reset : dated).add(copy.state());
      }
      folder.stream().filter(c -> !plain.contains(c)).forEach(c -> dated.add(c.state()));
    }
    reset.removeAll(dated);
    return reset;
  }

  /** True if it stands among at least three that follow each other within moments. */
  private static boolean isInBurst(List<Copy> sorted, int at) {
    int from = at;
    while (from > 0 && isSoonAfter(sorted.get(from - 1), sorted.get(from))) {
      from--;
    }
    int to = at;
    while (to + 1 < sorted.size() && isSoonAfter(sorted.get(to), sorted.get(to + 1))) {
      to++;
    }
    return to - from + 1 >= FEWEST_IN_BURST;
  }

  private static boolean isSoonAfter(Copy a, Copy b) {
    return Duration.between(a.modified(), b.modified()).compareTo(BURST) <= 0;
  }

  private String read(Instant at) {
    return DAY.format(at.atZone(zone));
  }

  private List<Evidence> of(Copy copy) {
    List<Evidence> all = new ArrayList<>();
    if (copy.seen() != null) {
      all.add(new Evidence(Evidence.Kind.SEEN_AS_NEW, copy.seen(), "seen as new"));
    }
    if (copy.inside() != null) {
      all.add(
          new Evidence(
              Evidence.Kind.TIME_INSIDE, Span.at(copy.inside()), copy.inside().toString()));
    }
    if (copy.fields().time() != null) {
      Duration precision =
          copy.fields().time().getSecond() == 0 ? Duration.ofSeconds(59) : Duration.ZERO;
      all.add(
          new Evidence(
              Evidence.Kind.TIME_IN_NAME,
              LocalTimes.span(copy.fields().time(), zone, precision),
              copy.path().getFileName().toString()));
    }
    all.add(
        new Evidence(Evidence.Kind.MODIFIED, Span.at(copy.latest()), copy.modified().toString()));
    return all;
  }

  /** Steps first, then counters; one for each folder and pattern. */
  private static List<Family> families(List<Copy> copies) {
    Map<String, Map<Long, Copy>> steps = new LinkedHashMap<>();
    Map<String, Map<Long, Copy>> counters = new LinkedHashMap<>();
    for (Copy copy : copies) {
      NameFields fields = copy.fields();
      String where = copy.path().getParent() + "/" + copy.pattern();
      if (copy.step() != null || fields.step() != null) {
        long step = copy.step() != null ? copy.step() : fields.step().value();
        steps
            .computeIfAbsent(copy.step() != null ? "step" : where, k -> new LinkedHashMap<>())
            .merge(step, copy, Chronicle::newer);
      } else if (fields.number() != null) {
        counters
            .computeIfAbsent(where, k -> new LinkedHashMap<>())
            .merge(fields.number().value(), copy, Chronicle::newer);
      }
    }
    List<Family> families = new ArrayList<>();
    steps.forEach((name, members) -> families.add(family(name, members, true)));
    counters.forEach((name, members) -> families.add(family(name, members, false)));
    return families;
  }

  private static Copy newer(Copy a, Copy b) {
    return a.modified().isAfter(b.modified()) ? a : b;
  }

  private static Family family(String name, Map<Long, Copy> members, boolean steps) {
    boolean padded =
        steps
            || members.values().stream()
                .allMatch(
                    c -> c.fields().number() != null && c.fields().number().digits() >= PADDED);
    return new Family(
        name,
        members.entrySet().stream()
            .map(e -> new Family.Member(e.getValue().state(), e.getKey()))
            .sorted(Comparator.comparingLong(Family.Member::number))
            .toList(),
        padded);
  }

  /**
   * By which pattern a name of a document's copy is read: its program's, else one many share.
   *
   * @param document name of the document's own file
   * @return null for a name that tells nothing
   */
  @Nullable
  public static NamePattern pattern(
      ProgramProfile program, CopyKind kind, String name, String document) {
    return program.leftovers().stream()
        .filter(l -> l.kind() == kind && l.fits(name, document))
        .map(ProgramProfile.Leftover::pattern)
        .findFirst()
        .orElseGet(
            () ->
                Conventions.read(name).stream()
                    .filter(r -> r.fields().stem().equals(FileName.of(document).stem()))
                    .map(Conventions.Read::pattern)
                    .findFirst()
                    .orElse(null));
  }

  /** True for what lies where no program writes: outside the project, or under any name. */
  public static boolean isElsewhere(
      CopyKind kind, Path path, @Nullable NamePattern pattern, Path project) {
    return kind == CopyKind.STRAY && (pattern == null || !path.startsWith(project));
  }

  /** What a name tells by the pattern that fits it, as far as it is of that document. */
  public static NameFields fields(@Nullable NamePattern pattern, String name) {
    return pattern == null
        ? NameFields.of("", "")
        : pattern.parse(name).orElse(NameFields.of(FileName.of(name).stem(), ""));
  }
}
