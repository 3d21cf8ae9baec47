package dev.kavrin.core.version;

import dev.kavrin.core.chunk.Sketch;
import dev.kavrin.core.naming.Conventions;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.NameFields;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Words;
import dev.kavrin.core.version.DocumentMatcher.By;
import dev.kavrin.core.version.DocumentMatcher.Stranger;
import dev.kavrin.core.version.DocumentMatcher.Subject;
import dev.kavrin.core.version.DocumentMatcher.Tie;
import java.util.Optional;

/** What a file's name, and the place it lies in, tell of the document it belongs to. */
final class NameTies {
  private static final double ANYTHING = 0.02;
  private static final double OPAQUE_SIZE = 4;
  private static final int PADDED = 3;

  private NameTies() {}

  static Optional<Tie> byName(Subject subject, Stranger file, String name) {
    FileName own = subject.name();
    double share = Math.max(subject.shared(file), subject.sharedParts(file));
    boolean beside = file.path().getParent().equals(subject.live().getParent());
    for (Conventions.Read read : Conventions.read(name)) {
      NameFields fields = read.fields();
      boolean named =
          fields.stem().equals(own.stem())
              && (fields.ext().isEmpty() || fields.ext().equals(own.ext()));
      if (named && enough(subject, file, read, beside, share)) {
        return Optional.of(
            new Tie(
                subject.id(),
                beside ? CopyKind.KEPT_BY_SAVE : CopyKind.STRAY,
                By.NAME,
                share,
                read.pattern(),
                fields,
                "named after it, " + Words.percent(share) + " of it known from there",
                share >= DocumentMatcher.CLEARLY || file.path().startsWith(subject.project())));
      }
    }
    return Optional.empty();
  }

  /**
   * A name that could as well be a document's next number needs content that says it is a copy;
   * other names need something in common, or a size alike where nothing can be compared.
   */
  private static boolean enough(
      Subject subject, Stranger file, Conventions.Read read, boolean beside, double share) {
    String name = file.path().getFileName().toString();
    boolean numbered = read.fields().number() != null || read.fields().step() != null;
    boolean hidden = name.startsWith("~") || name.startsWith("#") || subject.isHidden(file.path());
    if (beside && subject.isDocument(name) && !hidden) {
      int digits = read.fields().number() == null ? 0 : read.fields().number().digits();
      boolean copyLike = read.fields().time() != null || digits >= PADDED;
      return copyLike && share >= DocumentMatcher.CLEARLY;
    }
    if (share >= ANYTHING) {
      return true;
    }
    long size = file.sketch().length();
    long known = subject.sketches().stream().mapToLong(Sketch::length).max().orElse(0);
    boolean alike = size == 0 || size < known * OPAQUE_SIZE && known < size * OPAQUE_SIZE;
    return beside && !numbered && alike;
  }

  /** Snapshots of a disk, and copies of whole folders, keep names and places. */
  static Optional<Tie> byPlace(Subject subject, Stranger file, String name) {
    boolean within = file.path().startsWith(subject.project()) && !subject.isHidden(file.path());
    if (within || !name.equals(subject.live().getFileName().toString())) {
      return Optional.empty();
    }
    double share = Math.max(subject.shared(file), subject.sharedParts(file));
    boolean samePlace = file.path().endsWith(subject.place());
    if (share < ANYTHING && !samePlace) {
      return Optional.empty();
    }
    return Optional.of(
        new Tie(
            subject.id(),
            CopyKind.STRAY,
            By.NAME,
            share,
            null,
            NameFields.of("", ""),
            (samePlace ? "in the same place in a copy of its folder, " : "of the same name, ")
                + Words.percent(share)
                + " of it known from there",
            share >= (samePlace ? ANYTHING : DocumentMatcher.CLEARLY)));
  }
}
