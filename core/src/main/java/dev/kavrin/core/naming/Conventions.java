package dev.kavrin.core.naming;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** Habits of naming a backup that many programs share (common practice, no source). */
public final class Conventions {
  private static final List<NamePattern> SHARED =
      List.of(
          NamePattern.of("{stem}.{ext}.bak"),
          NamePattern.of("{stem}.{ext}.bak{n}"),
          NamePattern.of("{stem}.bak"),
          NamePattern.of("{stem}.bak{n}"),
          NamePattern.of("{stem}.old"),
          NamePattern.of("{stem}.{ext}.old"),
          NamePattern.of("{stem}.{ext}~"),
          NamePattern.of("{stem}.{ext}.~{n}~"),
          NamePattern.of("{stem}.{time}.{ext}"),
          NamePattern.of("{stem}-{time}.{ext}"),
          NamePattern.of("{stem}_{time}.{ext}"),
          NamePattern.of("{stem}.{ext}.{time}"),
          NamePattern.of("{stem}.{ext}.{n}"),
          NamePattern.of("{stem}.{ext}{n}"),
          NamePattern.of("{stem}.{n}.{ext}"),
          NamePattern.of("{stem}_{n}.{ext}"),
          NamePattern.of("{stem}-{step}.{ext}"),
          NamePattern.of(".~{stem}.{ext}"),
          NamePattern.of("~{stem}.{ext}"),
          NamePattern.of(".{stem}.{ext}"),
          NamePattern.of("#{stem}.{ext}#"));

  private Conventions() {}

  /** A name read by a convention. */
  public record Read(NamePattern pattern, NameFields fields) {}

  /** All conventions a name follows, the most telling first. */
  public static List<Read> read(String name) {
    return SHARED.stream()
        .flatMap(p -> p.parse(name).stream().map(fields -> new Read(p, fields)))
        .toList();
  }

  /**
   * Stems of the documents that a file of this name may be a backup of. Empty if the name follows
   * no convention.
   */
  public static Set<String> stemsBehind(String name) {
    return read(name).stream().map(r -> r.fields().stem()).collect(Collectors.toSet());
  }
}
