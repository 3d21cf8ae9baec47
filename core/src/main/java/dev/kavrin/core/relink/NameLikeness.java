package dev.kavrin.core.relink;

import dev.kavrin.core.naming.FileName;
import java.nio.file.Path;
import java.util.Locale;
import java.util.regex.Pattern;
import org.apache.commons.text.similarity.JaroWinklerSimilarity;

/** How alike two names are: numbers, separators and endings count less than words. */
final class NameLikeness {
  private static final JaroWinklerSimilarity WORDS = new JaroWinklerSimilarity();
  private static final Pattern BETWEEN = Pattern.compile("[\\s._()-]+");
  private static final Pattern NUMBER =
      Pattern.compile("(?:copy|final|old|new|small|large|v?\\d+(?:x\\d+)?(?:px|k)?)");

  private NameLikeness() {}

  /** 1 for the same name in whatever letters, 0.95 for another ending, less the less alike. */
  static double of(Path a, Path b) {
    FileName nameA = FileName.of(a.getFileName().toString());
    FileName nameB = FileName.of(b.getFileName().toString());
    String stemA = nameA.stem().toLowerCase(Locale.ROOT);
    String stemB = nameB.stem().toLowerCase(Locale.ROOT);
    boolean sameEnding = nameA.lowerExt().equals(nameB.lowerExt());
    if (stemA.equals(stemB)) {
      return sameEnding ? 1 : 0.95;
    }
    String wordsA = words(stemA);
    String wordsB = words(stemB);
    if (!wordsA.isEmpty() && wordsA.equals(wordsB)) {
      return sameEnding ? 0.9 : 0.85;
    }
    return 0.8 * WORDS.apply(stemA, stemB);
  }

  private static String words(String stem) {
    StringBuilder words = new StringBuilder();
    for (String word : BETWEEN.split(stem)) {
      if (!NUMBER.matcher(word).matches()) {
        words.append(word);
      }
    }
    return words.toString();
  }

  /** Folders two paths have in common from their ends on. */
  static int sharedTail(Path a, Path b) {
    Path aboveA = a.getParent();
    Path aboveB = b.getParent();
    int shared = 0;
    while (aboveA != null
        && aboveB != null
        && aboveA.getFileName() != null
        && aboveA.getFileName().equals(aboveB.getFileName())) {
      shared++;
      aboveA = aboveA.getParent();
      aboveB = aboveB.getParent();
    }
    return shared;
  }
}
