package dev.kavrin.core.host;

import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * When the program of an instance was put on this machine. Installers keep the time a file was made
 * by its makers; the time its entry was changed last ({@code st_ctime}, stat(2), from memory) is
 * that of the installing, and an update changes it.
 */
public final class Installed {
  private static final String CHANGED = "unix:ctime";
  private static final List<Path> WHERE_PROGRAMS_LIE =
      Stream.of("/usr/local/bin", "/usr/bin", "/bin").map(Path::of).toList();

  private Installed() {}

  /** Empty where the host does not tell what the instance runs from. */
  public static Optional<Instant> at(Instance instance) {
    List<Path> scripts = instance.scripts().filter(Files::isRegularFile).toList();
    return (scripts.isEmpty() ? program(instance) : scripts.stream())
        .flatMap(file -> changed(file).stream())
        .max(Comparator.naturalOrder());
  }

  private static Stream<Path> program(Instance instance) {
    if (instance.program() != null) {
      return Stream.of(instance.program());
    }
    Path called = called(instance);
    return called == null
        ? Stream.empty()
        : called.isAbsolute()
            ? Stream.of(called)
            : WHERE_PROGRAMS_LIE.stream()
                .map(folder -> folder.resolve(called))
                .filter(Files::isExecutable)
                .limit(1);
  }

  /** What it was called by; null if that is no path here. */
  @Nullable
  private static Path called(Instance instance) {
    try {
      return Path.of(instance.command().get(0));
    } catch (InvalidPathException none) {
      return null;
    }
  }

  private static Optional<Instant> changed(Path file) {
    try {
      return Optional.of(((FileTime) Files.getAttribute(file, CHANGED)).toInstant());
    } catch (IOException | UnsupportedOperationException | IllegalArgumentException untold) {
      return Optional.empty();
    }
  }
}
