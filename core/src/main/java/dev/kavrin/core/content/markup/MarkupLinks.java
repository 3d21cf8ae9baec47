package dev.kavrin.core.content.markup;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.LinkWriter;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.PartWriter.Opened;
import dev.kavrin.core.content.UriPath;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Names of pictures and data in SVG and other XML. All bytes but theirs stay. */
public final class MarkupLinks implements LinkWriter {
  private static final long LARGEST = 64_000_000;

  /** Every byte is one character and comes back as it was, whatever the text is written in. */
  private static final Charset BYTES = StandardCharsets.ISO_8859_1;

  private static final Pattern TAG =
      Pattern.compile(
          "(?s)<!--.*?-->|<!\\[CDATA\\[.*?\\]\\]>|<\\?.*?\\?>"
              + "|<(/?)(?:[\\w.-]+:)?([\\w.-]+)((?:\\s+[\\w.:-]+\\s*=\\s*(?:\"[^\"]*\"|'[^']*'))*+)\\s*(/?)>");
  private static final Pattern ATTRIBUTE =
      Pattern.compile("(?s)\\s(?:[\\w.-]+:)?([\\w.-]+)\\s*=\\s*([\"'])(.*?)\\2");

  @Override
  public String written(String path) {
    return UriPath.of(path);
  }

  @Override
  public List<Patch> patches(Opened file, Map<String, String> names) throws IOException {
    if (file.in().size() > LARGEST) {
      throw new CannotTake("The file is too large to be written anew.");
    }
    String text = new String(Bytes.at(file.in(), 0, (int) file.in().size()).array(), BYTES);
    if (text.indexOf('\0') >= 0) {
      throw new CannotTake("The file is written in two bytes a letter and cannot be written anew.");
    }
    List<Patch> patches = new ArrayList<>();
    Deque<String> open = new ArrayDeque<>();
    Matcher tag = TAG.matcher(text);
    while (tag.find()) {
      if (tag.group(2) == null) {
        continue;
      }
      if (!tag.group(1).isEmpty()) {
        open.poll();
        continue;
      }
      Matcher attribute = ATTRIBUTE.matcher(text).region(tag.start(3), tag.end(3));
      while (attribute.find()) {
        NamedFiles.inAttribute(tag.group(2), attribute.group(1))
            .ifPresent(n -> put(patches, n, attribute.group(3), attribute.start(3), names));
      }
      if (tag.group(4).isEmpty()) {
        String above = open.isEmpty() ? "" : open.peek();
        int end = text.indexOf('<', tag.end());
        NamedFiles.inText(above, tag.group(2))
            .filter(n -> end >= 0)
            .ifPresent(n -> put(patches, n, text.substring(tag.end(), end), tag.end(), names));
        open.push(tag.group(2));
      }
    }
    return patches;
  }

  private static void put(
      List<Patch> patches, NamedFiles named, String raw, int at, Map<String, String> names) {
    for (NamedFiles.Span span : named.in(raw)) {
      String with = names.get(read(span.of(raw)));
      if (with != null) {
        byte[] bytes = escaped(with).getBytes(StandardCharsets.UTF_8);
        patches.add(new Patch(at + span.from(), at + span.to(), bytes));
      }
    }
  }

  private static String read(String raw) {
    return new String(raw.getBytes(BYTES), StandardCharsets.UTF_8)
        .replace("&lt;", "<")
        .replace("&gt;", ">")
        .replace("&quot;", "\"")
        .replace("&apos;", "'")
        .replace("&amp;", "&")
        .strip();
  }

  private static String escaped(String value) {
    return value
        .replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace("\"", "&quot;")
        .replace("'", "&apos;");
  }
}
