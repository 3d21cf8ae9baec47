package dev.kavrin.core.exchange;

import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.PartWriter.Opened;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.stream.Stream;

/** Writes what a file shows in another open format. */
public interface Export {
  /** Ending of what is written, lower case, without the dot. */
  String ending();

  /** Name of the format. */
  String format();

  /** True if it can be made of files of that name. */
  boolean takes(String name);

  /** What does not come along, in words; told before anything is written. */
  List<String> loses();

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
    return all().stream().filter(e -> e.takes(name) && !e.ending().equals(ending)).toList();
  }
}
