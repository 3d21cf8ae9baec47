package dev.kavrin.core.backup;

import dev.kavrin.core.backup.RunFolder.StepFiles;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Role;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * Which files a split step lacks. Nobody writes down how many there ought to be, so a step is held
 * against those written before and after it, and against numbers that are left out.
 *
 * @param setup file name of the set-up
 * @param steps that lie on disk
 * @param sets that are held
 */
public record SplitSteps(SetRule rule, String setup, List<StepFiles> steps, List<SetRecord> sets) {
  private static final String OF_ITS = "of its ";
  private static final int NAMED = 4;

  /** True if something of a step that was held was told by {@link #lacks}. */
  public static boolean told(SetRecord set) {
    return set.lacks().stream().anyMatch(l -> l.startsWith(OF_ITS));
  }

  /**
   * What a step lacks of the files it has some of, in words; empty if nothing speaks against it.
   */
  public List<String> lacks(StepFiles step) {
    List<String> lacks = new ArrayList<>();
    for (Role role : step.files().keySet()) {
      Set<String> missing = missing(step, role);
      if (!missing.isEmpty()) {
        lacks.add(words(role, missing));
      }
    }
    return lacks;
  }

  private static String words(Role role, Set<String> missing) {
    String files = OF_ITS + role.words() + "s ";
    return missing.size() > NAMED
        ? files + missing.size() + " are missing"
        : files + String.join(", ", missing) + (missing.size() == 1 ? " is" : " are") + " missing";
  }

  /** True if nothing says how many files a step's roles ought to have: the first of its run. */
  public boolean isFirst(StepFiles step) {
    return step.files().keySet().stream()
        .anyMatch(role -> rule.isSplit(role) && before(step, role).isEmpty());
  }

  private Set<String> missing(StepFiles step, Role role) {
    if (!rule.isSplit(role)) {
      return Set.of();
    }
    Set<String> parts = step.parts(role);
    Set<String> leftOut = leftOut(parts);
    Optional<Set<String>> before = before(step, role);
    if (before.isEmpty()) {
      return leftOut;
    }
    boolean splitAnew = leftOut.isEmpty() && after(step, role).filter(parts::equals).isPresent();
    Set<String> missing = new TreeSet<>(splitAnew ? Set.of() : before.get());
    missing.removeAll(parts);
    return missing;
  }

  /** Numbers between those there are. */
  private static Set<String> leftOut(Set<String> parts) {
    Set<String> missing = new TreeSet<>();
    if (parts.stream().allMatch(p -> p.matches("\\d{1,6}"))) {
      Set<Integer> there = parts.stream().map(Integer::valueOf).collect(Collectors.toSet());
      int digits = parts.stream().mapToInt(String::length).min().orElse(1);
      IntStream.range(Collections.min(there), Collections.max(there))
          .filter(n -> !there.contains(n))
          .forEach(n -> missing.add(String.format("%0" + digits + "d", n)));
    }
    return missing;
  }

  /** Of the step written before; where it is gone, of the newest that is held whole. */
  private Optional<Set<String>> before(StepFiles step, Role role) {
    Optional<Set<String>> onDisk =
        steps.stream()
            .filter(s -> s.files().containsKey(role) && s.written().isBefore(step.written()))
            .max(Comparator.comparing(StepFiles::written))
            .map(s -> s.parts(role));
    return onDisk.or(
        () ->
            sets.stream()
                .filter(s -> s.has(role) && s.lacks().isEmpty())
                .filter(s -> s.written().isBefore(step.written()))
                .max(Comparator.comparing(SetRecord::written))
                .map(s -> parts(s, role)));
  }

  private Optional<Set<String>> after(StepFiles step, Role role) {
    return steps.stream()
        .filter(s -> s.files().containsKey(role) && s.written().isAfter(step.written()))
        .min(Comparator.comparing(StepFiles::written))
        .map(s -> s.parts(role));
  }

  private Set<String> parts(SetRecord set, Role role) {
    return set.members(role).stream()
        .map(m -> Path.of(m.path()))
        .map(
            path ->
                rule.claim(
                        setup,
                        Objects.toString(path.getParent(), ""),
                        path.getFileName().toString())
                    .map(SetRule.Claim::part)
                    .orElse(""))
        .collect(Collectors.toCollection(TreeSet::new));
  }
}
