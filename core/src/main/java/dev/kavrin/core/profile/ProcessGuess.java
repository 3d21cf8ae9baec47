package dev.kavrin.core.profile;

import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Which process is the program, and which words of its command line tell it from others. */
final class ProcessGuess {
  private static final Duration NEAR = Duration.ofSeconds(5);
  private static final Set<String> INTERPRETERS =
      Set.of("java", "python", "python3", "node", "perl", "ruby", "sh", "bash", "mono", "env");
  private static final Set<String> WITH_VALUE = Set.of("-cp", "-classpath", "--class-path", "-p");

  /** Kavrin's own helpers come and go beside every program. */
  private static final String OURS = "dev.kavrin.core.";

  private final Seen seen;
  private final Path document;
  private final Set<Path> related;

  ProcessGuess(Seen seen, Path document, Set<Path> related) {
    this.seen = seen;
    this.document = document;
    this.related = related;
  }

  /**
   * @param words that only its command line holds
   * @param why in words
   */
  record Found(String words, String why, boolean sure) {
    /** What people may call it: the last piece of the words. */
    String name() {
      String file = words.substring(words.lastIndexOf('/') + 1);
      String bare = file.replaceFirst("\\.(jar|py|js|pl|rb|sh|exe)$", "");
      return bare.substring(bare.lastIndexOf('.') + 1);
    }
  }

  private record Candidate(Ran ran, int score, String why) {}

  Optional<Found> find() {
    List<Candidate> candidates = new ArrayList<>();
    for (Ran ran : seen.processes()) {
      if (program(ran).startsWith(OURS)) {
        continue;
      }
      if (names(ran)) {
        candidates.add(new Candidate(ran, 3, "its command line names the file"));
      } else if (ran.open().stream().anyMatch(f -> f.equals(document) || related.contains(f))) {
        candidates.add(new Candidate(ran, 2, "it had the file open"));
      } else if (cameAndWent(ran)) {
        candidates.add(
            new Candidate(ran, 1, "it started before the first write and ended after the last"));
      }
    }
    candidates.sort(Comparator.comparingInt(Candidate::score).reversed());
    for (Candidate c : candidates) {
      Optional<String> words = words(c.ran());
      if (words.isPresent()) {
        boolean alone = candidates.stream().filter(o -> o.score() == c.score()).count() == 1;
        return Optional.of(new Found(words.get(), c.why(), alone));
      }
    }
    return Optional.empty();
  }

  private boolean names(Ran ran) {
    String file = document.getFileName().toString();
    return ran.arguments().stream().skip(1).anyMatch(a -> a.equals(file) || a.endsWith("/" + file));
  }

  private boolean cameAndWent(Ran ran) {
    List<Instant> writes =
        seen.events().stream()
            .filter(e -> e.wrote() && (e.path().equals(document) || related.contains(e.path())))
            .map(FileEvent::at)
            .toList();
    return !writes.isEmpty()
        && ran.from() != null
        && ran.to() != null
        && !ran.from().isAfter(writes.get(0))
        && !ran.to().isBefore(writes.get(writes.size() - 1))
        && ran.from().isAfter(seen.from().minus(NEAR));
  }

  /** The shortest words that no process of another program holds. */
  private Optional<String> words(Ran ran) {
    if (ran.arguments().isEmpty()) {
      return Optional.empty();
    }
    String program = ran.arguments().get(0);
    List<String> choices = new ArrayList<>();
    if (INTERPRETERS.contains(lastName(program))) {
      script(ran.arguments()).ifPresent(choices::add);
    } else {
      choices.add(lastName(program));
      choices.add(program);
    }
    return choices.stream().filter(w -> !w.isBlank() && onlyIn(ran, w)).findFirst();
  }

  private boolean onlyIn(Ran ran, String words) {
    return seen.processes().stream()
        .filter(o -> !program(o).equals(program(ran)))
        .noneMatch(o -> o.commandLine().contains(words));
  }

  /** What runs: the script of an interpreter, else the executable; empty where nothing tells. */
  private static String program(Ran ran) {
    if (ran.arguments().isEmpty()) {
      return "";
    }
    String executable = ran.arguments().get(0);
    return INTERPRETERS.contains(lastName(executable))
        ? script(ran.arguments()).orElse(executable)
        : executable;
  }

  /** What an interpreter runs: its first argument that is neither an option nor its value. */
  private static Optional<String> script(List<String> arguments) {
    for (int i = 1; i < arguments.size(); i++) {
      String argument = arguments.get(i);
      if (WITH_VALUE.contains(argument)) {
        i++;
      } else if (!argument.startsWith("-")) {
        return Optional.of(argument);
      }
    }
    return Optional.empty();
  }

  private static String lastName(String program) {
    try {
      Path name = Path.of(program).getFileName();
      return name == null ? "" : name.toString();
    } catch (InvalidPathException odd) {
      return "";
    }
  }
}
