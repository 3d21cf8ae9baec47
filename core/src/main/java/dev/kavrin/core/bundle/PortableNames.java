package dev.kavrin.core.bundle;

import dev.kavrin.core.naming.FileName;
import java.nio.charset.StandardCharsets;
import java.text.Normalizer;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.StringJoiner;

/**
 * Paths that can stand on any machine: in composed letters (NFC), without characters and names some
 * systems refuse (or some readers of bags read wrongly: the per cent sign), no name longer than 255
 * bytes, none that another differs from by case alone. A path that is fine stays as it is.
 */
public final class PortableNames {
  private static final int LONGEST = 200;
  private static final Set<String> REFUSED =
      Set.of(
          "con", "prn", "aux", "nul", "com1", "com2", "com3", "com4", "com5", "com6", "com7",
          "com8", "com9", "lpt1", "lpt2", "lpt3", "lpt4", "lpt5", "lpt6", "lpt7", "lpt8", "lpt9");

  private final Map<String, String> given = new HashMap<>();
  private final Set<String> folded = new HashSet<>();
  private final Map<String, String> folders = new HashMap<>();

  /**
   * @param path relative, with slashes; the same path gets the same answer
   */
  public String of(String path) {
    return given.computeIfAbsent(path, this::made);
  }

  private String made(String path) {
    int slash = path.lastIndexOf('/');
    String folder =
        slash < 0
            ? ""
            : folders.computeIfAbsent(path.substring(0, slash), PortableNames::cleanPath);
    String name = clean(path.substring(slash + 1));
    for (int n = 1; ; n++) {
      FileName parts = FileName.of(name);
      String tried = n == 1 ? name : new FileName(parts.stem() + "-" + n, parts.ext()).written();
      String whole = folder.isEmpty() ? tried : folder + "/" + tried;
      if (folded.add(whole.toLowerCase(Locale.ROOT))) {
        return whole;
      }
    }
  }

  private static String cleanPath(String path) {
    StringJoiner cleaned = new StringJoiner("/");
    for (String name : path.split("/")) {
      cleaned.add(clean(name));
    }
    return cleaned.toString();
  }

  private static String clean(String name) {
    String plain =
        Normalizer.normalize(name, Normalizer.Form.NFC)
            .replaceAll("[\\x00-\\x1f<>:\"\\\\|?*%]", "_")
            .replaceAll("[. ]+$", "_");
    FileName parts = FileName.of(plain.isEmpty() || plain.equals("..") ? "_" : plain);
    String stem =
        REFUSED.contains(parts.stem().toLowerCase(Locale.ROOT)) ? "_" + parts.stem() : parts.stem();
    while (bytes(stem) + bytes(parts.ext()) > LONGEST && stem.length() > 1) {
      stem = stem.substring(0, stem.offsetByCodePoints(stem.length(), -1));
    }
    return new FileName(stem, parts.ext()).written();
  }

  private static int bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8).length;
  }
}
