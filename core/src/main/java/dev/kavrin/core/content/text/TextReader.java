package dev.kavrin.core.content.text;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.LineBytes;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.PartsByPath;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.Map;
import java.util.Optional;

/**
 * Plain text: its parts are the sections that headings begin. Carries neither length nor checksum,
 * so nothing damaged can be told but zero bytes. Line ends and space before them do not count.
 */
public final class TextReader implements ContentReader {
  /** Its name among formats. */
  public static final String FORMAT = "text";

  private static final int MOST_PARTS = 5_000;

  private final Headings headings;

  public TextReader(Headings headings) {
    this.headings = headings;
  }

  @Override
  public boolean reads(String ext) {
    return headings.areIn(ext);
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Readings readings = new Readings(FORMAT);
    if (in.size() == 0) {
      return readings.found(Finding.doubtful("empty", 0, "The file is empty: 0 bytes.")).done();
    }
    LineBytes lines = new LineBytes(Bytes.from(in, 0));
    PartsByPath taken = new PartsByPath();
    Section open = null;
    boolean zeros = false;
    while (lines.next()) {
      if (lines.hasZeros() && !zeros) {
        zeros = true;
        readings.found(
            Finding.doubtful("zeros", -1, "Line " + lines.number() + " holds zero bytes."));
      }
      Optional<String> begins =
          readings.parts() < MOST_PARTS ? headings.in(lines.text()) : Optional.empty();
      if (begins.isPresent()) {
        close(open, readings);
        open = new Section(taken.unique(begins.get()), begins.get());
      }
      if (open != null) {
        open.add(lines);
      }
    }
    close(open, readings);
    return readings.done();
  }

  private static void close(Section open, Readings readings) {
    if (open != null) {
      readings.part(open.part());
    }
  }

  /** One that is not at its end yet. */
  private static final class Section {
    private final String id;
    private final String label;
    private final ContentHash content = new ContentHash();
    private int lines;
    private int blank;

    Section(String id, String label) {
      this.id = id;
      this.label = label;
    }

    /** Blank lines at the end belong to nobody. */
    void add(LineBytes line) {
      int end = line.length();
      while (end > 0 && line.bytes()[end - 1] <= ' ' && line.bytes()[end - 1] >= 0) {
        end--;
      }
      if (end == 0) {
        blank++;
        return;
      }
      for (; blank > 0; blank--) {
        content.add(new byte[] {'\n'}, 0, 1);
      }
      content.add(line.bytes(), 0, end);
      content.add(new byte[] {'\n'}, 0, 1);
      lines++;
    }

    Part part() {
      return Part.of(
          id,
          null,
          label,
          "section",
          Map.of("lines", new Measure(lines, "")),
          content.id().toString());
    }
  }
}
