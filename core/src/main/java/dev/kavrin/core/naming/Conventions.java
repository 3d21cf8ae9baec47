package dev.kavrin.core.naming;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** Habits of naming a backup that many programs share (common practice, no source). */
public final class Conventions {
  private static final List<NamePattern> SHARED =
      List.of(
          NamePattern.of("{stem}.{ext}.bak"),
          NamePattern.of("{stem}.bak"),
          NamePattern.of("{stem}.{ext}~"),
          NamePattern.of("{stem}.{ext}.{n}"),
          NamePattern.of("{stem}.{ext}{n}"),
          NamePattern.of("{stem}.{time}.{ext}"),
          NamePattern.of("{stem}-{time}.{ext}"),
          NamePattern.of("{stem}_{n}.{ext}"),
          NamePattern.of(".~{stem}.{ext}"),
          NamePattern.of("~{stem}.{ext}"),
          NamePattern.of("#{stem}.{ext}#"));

  private Conventions() {}

  /**
   * Stems of the documents that a file of this name may be a backup of. Empty if the name follows
   * no convention.
   */
  public static Set<String> stemsBehind(String name) {
    return SHARED.stream()
        .flatMap(p -> p.parse(name).stream())
        .map(NameFields::stem)
        .collect(Collectors.toSet());
  }
}
