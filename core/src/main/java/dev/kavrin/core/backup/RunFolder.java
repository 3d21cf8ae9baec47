package dev.kavrin.core.backup;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.naming.PathPattern;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Role;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The files of one run as they lie on disk, by step. Not for use by two threads. */
public final class RunFolder {
  private final Disk disk;
  private final Inspector inspector;
  private final Clockwork clock;
  private Map<Path, Known> known = new HashMap<>();
  private boolean looked;

  /** A file as it was seen last; step is what it says inside, if its name tells none. */
  private record Known(FileFacts facts, Duration since, Long step) {}

  /**
   * One file of a step.
   *
   * @param relative to the folder of the run
   * @param part which of several of its role; empty where there is one
   * @param since when it was first seen as it is, on the steady clock
   */
  public record StepFile(
      Path path, String relative, String part, FileFacts facts, Duration since) {}

  /**
   * All files of a step.
   *
   * @param files of each role at least one, by part
   * @param told what speaks against taking them for one step, in words
   */
  public record StepFiles(long step, Map<Role, List<StepFile>> files, List<String> told) {
    public Instant written() {
      return latest(all().map(f -> f.facts().modified()).toList());
    }

    public Duration since() {
      return latest(all().map(StepFile::since).toList());
    }

    /** All of them, whatever they are for. */
    public Stream<StepFile> all() {
      return files.values().stream().flatMap(List::stream);
    }

    /** Which files of a role there are. */
    Set<String> parts(Role role) {
      return files.getOrDefault(role, List.of()).stream()
          .map(StepFile::part)
          .collect(Collectors.toCollection(TreeSet::new));
    }

    private static <T extends Comparable<T>> T latest(Collection<T> times) {
      return times.stream().max(Comparator.naturalOrder()).orElseThrow();
    }
  }

  public RunFolder(Disk disk, Inspector inspector, Clockwork clock) {
    this.disk = disk;
    this.inspector = inspector;
    this.clock = clock;
  }

  /**
   * Looks once.
   *
   * @param setup the set-up, which says where the run lies
   * @return by rising step
   */
  public List<StepFiles> look(SetRule rule, Path setup) throws IOException {
    Map<Path, Known> now = new HashMap<>();
    Map<Long, StepFiles> steps = new TreeMap<>();
    String name = setup.getFileName().toString();
    for (Path folder : folders(disk, rule, setup)) {
      String below = RelativePath.of(setup.getParent(), folder);
      for (Path path : disk.list(folder)) {
        Optional<SetRule.Claim> claim = rule.claim(name, below, path.getFileName().toString());
        Optional<FileFacts> facts =
            claim.isEmpty() ? Optional.empty() : disk.facts(path).filter(FileFacts::isFile);
        if (facts.isPresent()) {
          Known file = known(path, facts.get(), claim.get());
          now.put(path, file);
          if (file.step() != null) {
            String relative = RelativePath.of(setup.getParent(), path);
            add(
                steps,
                claim.get().role(),
                file,
                new StepFile(path, relative, claim.get().part(), facts.get(), file.since()));
          }
        }
      }
    }
    known = now;
    looked = true;
    return List.copyOf(steps.values());
  }

  /** When names last came or went in each of its folders. */
  public List<Long> times(SetRule rule, Path setup) throws IOException {
    List<Long> times = new ArrayList<>();
    for (Path folder : folders(disk, rule, setup)) {
      times.add(disk.facts(folder).map(FileFacts::modifiedNanos).orElse(-1L));
    }
    return times;
  }

  /** Folders in which files of a run may lie, as far as they are there; the set-up's first. */
  public static List<Path> folders(Disk disk, SetRule rule, Path setup) throws IOException {
    Set<Path> found = new LinkedHashSet<>();
    boolean there = disk.facts(setup.getParent()).filter(FileFacts::isFolder).isPresent();
    for (PathPattern pattern : rule.folders()) {
      List<Path> level = there ? List.of(setup.getParent()) : List.of();
      for (int depth = 0; depth < pattern.depth(); depth++) {
        level = below(disk, level, pattern, depth);
      }
      found.addAll(level);
    }
    return List.copyOf(found);
  }

  private static List<Path> below(Disk disk, List<Path> level, PathPattern pattern, int depth)
      throws IOException {
    List<Path> below = new ArrayList<>();
    for (Path folder : level) {
      Optional<String> name = pattern.name(depth);
      List<Path> all = name.isPresent() ? List.of(folder.resolve(name.get())) : disk.list(folder);
      for (Path path : all) {
        if (pattern.fits(depth, path.getFileName().toString())
            && disk.facts(path).filter(FileFacts::isFolder).isPresent()) {
          below.add(path);
        }
      }
    }
    return below;
  }

  private Known known(Path path, FileFacts facts, SetRule.Claim claim) {
    Known before = known.get(path);
    if (before != null && before.facts().sameAs(facts)) {
      return before;
    }
    Duration age = Duration.between(facts.modified(), clock.instant());
    Duration since = looked || age.isNegative() ? clock.running() : clock.running().minus(age);
    Long step = claim.step() != null ? claim.step() : inside(path);
    return new Known(facts, since, step);
  }

  private Long inside(Path path) {
    return inspector.inspect(path, path.getFileName().toString()).inventory().step();
  }

  /** Of two files that claim one place the one written later is taken, and the clash is told. */
  private static void add(Map<Long, StepFiles> steps, Role role, Known known, StepFile file) {
    StepFiles step =
        steps.computeIfAbsent(
            known.step(), s -> new StepFiles(s, new EnumMap<>(Role.class), new ArrayList<>()));
    List<StepFile> files = step.files().computeIfAbsent(role, r -> new ArrayList<>());
    Optional<StepFile> other = files.stream().filter(f -> f.part().equals(file.part())).findFirst();
    if (other.isPresent()) {
      step.told()
          .add(
              "two files claim its "
                  + role.words()
                  + ": "
                  + other.get().relative()
                  + ", "
                  + file.relative());
      if (file.facts().modifiedNanos() <= other.get().facts().modifiedNanos()) {
        return;
      }
      files.remove(other.get());
    }
    files.add(file);
    files.sort(Comparator.comparing(StepFile::relative));
  }
}
