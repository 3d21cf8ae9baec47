package dev.kavrin.core.export;

import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.PartWriter.Opened;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.stream.Stream;

/** Writes what a file shows in another open format. */
public interface Export {
  /**
   * What is written.
   *
   * @param ending lower case, without the dot
   * @param name of the format
   * @param loses what does not come along, in words; told before anything is written
   */
  record Format(String ending, String name, List<String> loses) {
    Format(String ending, String name, String loses) {
      this(ending, name, List.of(loses));
    }
  }

  Format format();

  /** True if it can be made of files of that name. */
  boolean takes(String name);

  /**
   * @throws CannotTake its words say why; what was written then is of no use
   */
  void write(Opened from, OutputStream out) throws IOException;

  /** All there are. */
  static List<Export> all() {
    return Stream.of(
            Stream.<Export>of(ModelExport.values()),
            Stream.<Export>of(new DrawingExport()),
            Stream.<Export>of(FieldExport.values()))
        .flatMap(s -> s)
        .toList();
  }

  /** Those that can be made of files of that name; a format is not made of itself. */
  static List<Export> of(String name) {
    String ending = dev.kavrin.core.naming.FileName.of(name).lowerExt();
    return all().stream()
        .filter(e -> e.takes(name) && !e.format().ending().equals(ending))
        .toList();
  }
}
