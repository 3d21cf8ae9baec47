package dev.kavrin.core.naming;

import java.util.List;
import java.util.Optional;

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
   * The first convention by which {@code name} is a backup of the document named {@code document}.
   */
  public static Optional<NamePattern> backupOf(String name, String document) {
    FileName own = FileName.of(document);
    if (name.equals(document)) {
      return Optional.empty();
    }
    return SHARED.stream()
        .filter(p -> p.parse(name).filter(f -> f.stem().equals(own.stem())).isPresent())
        .findFirst();
  }
}
