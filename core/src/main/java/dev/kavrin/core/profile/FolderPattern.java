package dev.kavrin.core.profile;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.Surroundings;
import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.util.ArrayList;
import java.util.List;

/**
 * Where a program leaves copies: absolute, or seen from the document's folder. {@code ~} and {@code
 * $NAME} may stand in it, {@code {stem}} for the document's name, and {@code *} for anything within
 * one name.
 */
public final class FolderPattern {
  /** Beside the document. */
  public static final FolderPattern BESIDE = new FolderPattern(".");

  private static final String STEM = "{stem}";

  private final String text;

  private FolderPattern(String text) {
    this.text = text;
  }

  /**
   * @throws IllegalArgumentException empty, or no path
   */
  @JsonCreator
  public static FolderPattern of(String text) {
    String bare = text.strip();
    if (bare.isEmpty() || bare.contains("\0")) {
      throw new IllegalArgumentException("A folder of leftovers needs a path, such as .");
    }
    return new FolderPattern(bare);
  }

  /** True if the document's name stands in it, so that its files need not. */
  boolean namesTheDocument() {
    return text.contains(STEM);
  }

  /** True if it can lead nowhere but under the document's own folder. */
  public boolean staysInside() {
    return !text.startsWith("/")
        && !text.startsWith("~")
        && !text.contains("$")
        && !List.of(text.split("/")).contains("..");
  }

  /**
   * The folders that are there for a document. Links among them are not followed.
   *
   * @throws IllegalArgumentException a variable is not set
   */
  public List<Path> folders(Disk disk, Path document, Surroundings surroundings) {
    List<Path> here = List.of(fixed(document, surroundings));
    for (String name : jokers(surroundings)) {
      here = below(disk, here, name.replace(STEM, stem(document)));
    }
    return here;
  }

  /** The part before the first {@code *}, whether it is there or not. */
  public Path fixed(Path document, Surroundings surroundings) {
    String filled = surroundings.filled(text);
    int joker = filled.indexOf('*');
    String fixed = joker < 0 ? filled : filled.substring(0, filled.lastIndexOf('/', joker) + 1);
    return document.getParent().resolve(fixed.replace(STEM, stem(document))).normalize();
  }

  private List<String> jokers(Surroundings surroundings) {
    String filled = surroundings.filled(text);
    int joker = filled.indexOf('*');
    return joker < 0
        ? List.of()
        : List.of(filled.substring(filled.lastIndexOf('/', joker) + 1).split("/"));
  }

  private static List<Path> below(Disk disk, List<Path> folders, String name) {
    PathMatcher fits =
        FileSystems.getDefault()
            .getPathMatcher("glob:" + name.replaceAll("([\\\\\\[\\]{}?])", "\\\\$1"));
    List<Path> found = new ArrayList<>();
    for (Path folder : folders) {
      try {
        for (Path path : disk.list(folder)) {
          if (fits.matches(path.getFileName())
              && disk.facts(path).filter(FileFacts::isFolder).isPresent()) {
            found.add(path);
          }
        }
      } catch (IOException absent) {
        continue;
      }
    }
    found.sort(null);
    return found;
  }

  private static String stem(Path document) {
    return FileName.of(document.getFileName().toString()).stem();
  }

  @Override
  @JsonValue
  public String toString() {
    return text;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof FolderPattern that && that.text.equals(text);
  }

  @Override
  public int hashCode() {
    return text.hashCode();
  }
}
