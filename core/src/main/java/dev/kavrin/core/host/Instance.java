package dev.kavrin.core.host;

import jakarta.annotation.Nullable;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * One running program of this machine.
 *
 * @param user whose it is, empty where the host does not tell
 * @param started {@link Instant#EPOCH} where the host does not tell
 * @param command its command line, program first
 * @param folder it works in, null where the host does not tell
 * @param program file it runs from, null where the host does not tell
 * @param open files it has open, as far as the host tells
 * @param used processor time so far, null where the host does not tell
 */
public record Instance(
    long pid,
    String user,
    Instant started,
    List<String> command,
    @Nullable Path folder,
    @Nullable Path program,
    Set<Path> open,
    @Nullable Duration used) {

  private static final String SCRIPT = ".*[.](jar|pyz?|js|pl|rb|sh|exe)";

  /** What tells it from all others on this machine: a number is given again, but not at once. */
  public record Id(long pid, Instant started) {}

  /** One of which no more is known than that it runs. */
  static Instance untold(String words) {
    return new Instance(0, "", Instant.EPOCH, List.of(words), null, null, Set.of(), null);
  }

  public Id id() {
    return new Id(pid, started);
  }

  /** As people call it in a sentence. */
  public String words() {
    String program = command.get(0).replaceFirst("^.*/", "");
    return pid == 0
        ? program
        : program + " (process " + pid + (user.isEmpty() ? "" : ", " + user) + ")";
  }

  /** True if it was started with this file, by its whole path or from the folder it works in. */
  public boolean wasStartedWith(Path file) {
    String name = file.getFileName().toString();
    return named(argument -> argument.endsWith(name)).anyMatch(file::equals);
  }

  /**
   * Paths of what it works on, as far as the host tells: open files, and what it was started with.
   */
  public Stream<Path> files() {
    return Stream.concat(open.stream(), named(argument -> true)).distinct();
  }

  /** What an interpreter was started to run, as far as its name tells. */
  Stream<Path> scripts() {
    return named(argument -> argument.matches(SCRIPT));
  }

  private Stream<Path> named(Predicate<String> wanted) {
    return command.stream()
        .skip(1)
        .map(argument -> argument.replaceFirst("^-{1,2}[\\w-]+=", ""))
        .filter(wanted)
        .flatMap(argument -> path(argument).stream());
  }

  private Optional<Path> path(String argument) {
    try {
      Path named = Path.of(argument);
      Path whole = named.isAbsolute() || folder == null ? named : folder.resolve(named);
      return Optional.of(whole.normalize());
    } catch (InvalidPathException noPath) {
      return Optional.empty();
    }
  }
}
