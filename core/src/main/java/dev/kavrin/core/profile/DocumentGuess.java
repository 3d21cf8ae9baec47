package dev.kavrin.core.profile;

import dev.kavrin.core.naming.Conventions;
import dev.kavrin.core.naming.FileName;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/** Which of the files is the one a person works on. */
final class DocumentGuess {
  private static final Pattern COPY_WORDS =
      Pattern.compile(
          "(?i)(^|[^a-z])(bak|backup|back|old|orig|prev(ious)?|earlier|before|tmp|temp|auto(save)?"
              + "|draft|rescue|recover(y|ed)?|crash|emergency|lock|lck|pid|open|busy|log)([^a-z]|$)");
  private static final int MOST = 12;
  private static final int MOST_LEANING = 8;
  private static final int DERIVED = 8;
  private static final int COPY = 9;

  private DocumentGuess() {}

  private record Scored(Path path, int score, long size) {}

  /** Files in the work folder that could be documents, likeliest first. */
  static List<Path> of(Seen seen) {
    Set<Path> all = new HashSet<>(seen.before().keySet());
    Set<Path> written = new HashSet<>();
    for (FileEvent event : seen.events()) {
      all.add(event.path());
      if (event.wrote()) {
        written.add(event.path());
      }
    }
    Set<Path> candidates = written.isEmpty() ? all : written;
    return candidates.stream()
        .filter(p -> p.startsWith(seen.work()) && !hidden(seen.work(), p))
        .map(p -> new Scored(p, score(p, seen, all, written), seen.size(p)))
        .filter(s -> s.score() > 0)
        .sorted(
            Comparator.comparingInt(Scored::score)
                .thenComparingLong(Scored::size)
                .reversed()
                .thenComparing(Scored::path))
        .limit(MOST)
        .map(Scored::path)
        .toList();
  }

  private static boolean hidden(Path work, Path path) {
    for (Path name : work.relativize(path)) {
      if (name.toString().startsWith(".")) {
        return true;
      }
    }
    return false;
  }

  private static int score(Path path, Seen seen, Set<Path> all, Set<Path> written) {
    String name = path.getFileName().toString();
    FileName parts = FileName.of(name);
    int score = 10;
    score += seen.processes().stream().anyMatch(r -> namedBy(r, name)) ? 60 : 0;
    score += seen.before().containsKey(path) && written.contains(path) ? 10 : 0;
    score += parts.ext().isEmpty() ? -6 : 0;
    score -= isCopy(name) ? COPY : 0;
    Set<String> behind = Conventions.stemsBehind(name);
    int leaning = 0;
    for (Path other : all) {
      String otherName = other.getFileName().toString();
      if (other.equals(path)) {
        continue;
      } else if (otherName.contains(parts.stem())) {
        leaning++;
      }
      if (other.getParent().equals(path.getParent())
          && !isCopy(otherName)
          && behind.contains(FileName.of(otherName).stem())) {
        score -= DERIVED;
        behind = Set.of();
      }
    }
    return score + Math.min(leaning, MOST_LEANING);
  }

  static boolean isCopy(String name) {
    return COPY_WORDS.matcher(name).find() || name.endsWith("~") || name.startsWith("#");
  }

  private static boolean namedBy(Ran ran, String name) {
    return ran.arguments().stream().skip(1).anyMatch(a -> a.equals(name) || a.endsWith("/" + name));
  }
}
