package dev.kavrin.core.relink;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.relink.Suggestion.Why;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Files that may serve for a lost one: by content, then by name, then by likeness. Another name,
 * size or format may serve.
 */
public final class Suggestions {
  private static final int MOST = 8;
  private static final double ALIKE = 0.6;
  private static final double SURE = 0.75;

  private final Looking looking;

  public Suggestions(Looking looking) {
    this.looking = looking;
  }

  /** How files are looked at. */
  public interface Looking {
    long size(Path file) throws IOException;

    ContentId identify(Path file) throws IOException;

    /** What it looks like; empty for what is no picture or cannot be read. */
    Optional<PictureLikeness> look(Path file) throws IOException;
  }

  /** The likeliest first; the copy that is held stands before what is only somewhat alike. */
  public List<Suggestion> of(Lost lost, List<Path> standing) throws IOException {
    Optional<PictureLikeness> looked =
        lost.held() == null ? Optional.empty() : looking.look(lost.held());
    List<Suggestion> all = new ArrayList<>();
    for (Path file : standing) {
      if (!file.equals(lost.path())) {
        suggest(lost, looked, file).ifPresent(all::add);
      }
    }
    if (lost.held() != null) {
      all.add(new Suggestion(lost.held(), Why.HELD, SURE, ""));
    }
    all.sort(
        Comparator.comparingDouble((Suggestion s) -> -s.score())
            .thenComparing(s -> -NameLikeness.sharedTail(lost.path(), s.file()))
            .thenComparing(Suggestion::file));
    return List.copyOf(all.subList(0, Math.min(MOST, all.size())));
  }

  private Optional<Suggestion> suggest(Lost lost, Optional<PictureLikeness> looked, Path file)
      throws IOException {
    boolean same =
        lost.content() != null
            && looking.size(file) == lost.content().length()
            && looking.identify(file).equals(lost.content());
    double name = NameLikeness.of(lost.path(), file);
    if (same) {
      return Optional.of(new Suggestion(file, Why.SAME_CONTENT, 1 + name, ""));
    }
    OptionalDouble look = look(looked, file);
    double alike = look.isPresent() ? 0.7 * look.getAsDouble() + 0.3 * name : 0.95 * name;
    double score = name == 1 ? Math.max(ALIKE, alike) : alike;
    if (score < ALIKE) {
      return Optional.empty();
    }
    Why why =
        name == 1
            ? Why.SAME_NAME
            : look.isPresent() && look.getAsDouble() > ALIKE ? Why.LOOKS_ALIKE : Why.NAME_ALIKE;
    return Optional.of(new Suggestion(file, why, score, told(lost, file)));
  }

  private OptionalDouble look(Optional<PictureLikeness> looked, Path file) throws IOException {
    if (looked.isEmpty()) {
      return OptionalDouble.empty();
    }
    Optional<PictureLikeness> other = looking.look(file);
    return other.isEmpty()
        ? OptionalDouble.empty()
        : OptionalDouble.of(looked.get().to(other.get()));
  }

  private String told(Lost lost, Path file) throws IOException {
    List<String> told = new ArrayList<>();
    String before = FileName.of(lost.path().getFileName().toString()).lowerExt();
    String now = FileName.of(file.getFileName().toString()).lowerExt();
    if (!before.equals(now)) {
      told.add("another format: " + now + " instead of " + before);
    }
    if (lost.content() != null) {
      told.add("not the same bytes as then");
    }
    return String.join(", ", told);
  }
}
