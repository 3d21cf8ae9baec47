package dev.kavrin.server.search;

import dev.kavrin.core.chunk.Sketch;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.Conventions;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.version.DocumentMatcher;
import dev.kavrin.server.backup.Kept;
import java.nio.file.Path;
import java.util.Collection;
import java.util.List;
import java.util.Set;

/** Which files could belong to a document, so that all others are never read. */
record Plausible(Collection<Kept> projects, List<DocumentMatcher.Subject> subjects) {
  private static final double SMALLEST = 0.05;
  private static final double LARGEST = 4;

  /** By its size or its name; steps of runs are told by their rule. */
  boolean isWorthReading(Path file, FileFacts facts) {
    return !isOfARun(file) && (isAlike(facts.size()) || isNamedAlike(file));
  }

  /** By its name alone, for what costs to be fetched. */
  boolean isWorthFetching(Path file) {
    return isNamedAlike(file);
  }

  private boolean isOfARun(Path file) {
    return projects.stream()
        .filter(k -> file.startsWith(k.project().folder()) && k.project().sets() != null)
        .anyMatch(k -> k.project().sets().isStep(file.getFileName().toString()));
  }

  private boolean isAlike(long size) {
    for (DocumentMatcher.Subject subject : subjects) {
      for (Sketch sketch : subject.sketches()) {
        if (size > sketch.length() * SMALLEST && size < sketch.length() * LARGEST) {
          return true;
        }
      }
    }
    return false;
  }

  private boolean isNamedAlike(Path file) {
    String name = file.getFileName().toString();
    if (subjects.stream().anyMatch(s -> s.live().getFileName().toString().equals(name))) {
      return true;
    }
    List<String> near =
        subjects.stream()
            .map(s -> FileName.of(s.live().getFileName().toString()).stem())
            .filter(name::contains)
            .toList();
    if (near.isEmpty()) {
      return false;
    }
    Set<String> behind = Conventions.stemsBehind(name);
    return near.stream().anyMatch(behind::contains);
  }
}
