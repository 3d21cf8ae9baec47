package dev.kavrin.core.content.text;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.PartWriter;
import dev.kavrin.core.content.PartsByPath;
import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Sections of plain text, each from its heading to the next. All other bytes stay. */
public final class TextParts implements PartWriter {
  private static final long LARGEST = 64_000_000;

  /** Every byte is one character and comes back as it was, whatever the text is written in. */
  private static final Charset BYTES = StandardCharsets.ISO_8859_1;

  private static final String BEGINNING = "";

  @Override
  public List<Brought> write(Opened base, List<Wanted> wanted, OutputStream out)
      throws IOException {
    Map<String, String> into = sections(base);
    String end = into.values().stream().anyMatch(s -> s.contains("\r\n")) ? "\r\n" : "\n";
    List<Brought> brought = new ArrayList<>();
    for (Wanted some : wanted) {
      Map<String, String> from = sections(some.from());
      for (String part : some.parts()) {
        String text = from.get(part);
        if (text == null) {
          throw new CannotTake(part + " is not in that version.");
        }
        boolean replaced = into.containsKey(part);
        if (!replaced) {
          closeLast(into, end);
        }
        into.put(part, text.replace("\r\n", "\n").replace("\n", end));
        brought.add(new Brought(part, part, replaced, List.of(), List.of()));
      }
    }
    String before = "";
    for (String text : into.values()) {
      if (!before.isEmpty() && !before.endsWith("\n")) {
        out.write(end.getBytes(BYTES));
      }
      out.write(text.getBytes(BYTES));
      before = text.isEmpty() ? before : text;
    }
    return brought;
  }

  /** What comes behind the last section begins on a line of its own. */
  private static void closeLast(Map<String, String> into, String end) {
    String last = List.copyOf(into.keySet()).get(into.size() - 1);
    into.computeIfPresent(
        last, (id, text) -> text.isEmpty() || text.endsWith("\n") ? text : text + end);
  }

  /** Each with its heading, in their order; what stands before the first one has no name. */
  private static Map<String, String> sections(Opened file) throws IOException {
    if (file.in().size() > LARGEST) {
      throw new CannotTake("The file is too large to be taken apart. Restore the whole version.");
    }
    Headings headings = Headings.of(FileName.of(file.name()).lowerExt()).orElseThrow();
    String text = new String(Bytes.at(file.in(), 0, (int) file.in().size()).array(), BYTES);
    Map<String, String> sections = new LinkedHashMap<>();
    PartsByPath taken = new PartsByPath();
    String open = BEGINNING;
    int from = 0;
    for (int at = 0; at < text.length(); ) {
      int newline = text.indexOf('\n', at);
      int next = newline < 0 ? text.length() : newline + 1;
      String heading = headings.in(text.substring(at, next).strip()).orElse(null);
      if (heading != null) {
        sections.put(open, text.substring(from, at));
        open = taken.unique(heading);
        from = at;
      }
      at = next;
    }
    sections.put(open, text.substring(from));
    return sections;
  }
}
