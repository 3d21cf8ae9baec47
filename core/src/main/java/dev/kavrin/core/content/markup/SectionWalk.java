package dev.kavrin.core.content.markup;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.PartsByPath;
import dev.kavrin.core.content.Readings;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamReader;

/** Parts of a document, each with all that stands in it and is no part of its own. */
final class SectionWalk {
  private static final int MOST_PARTS = 5_000;
  private static final int PIECE = 1 << 13;

  private final Readings readings;
  private final Sections rule;
  private final Deque<Level> open = new ArrayDeque<>();
  private final List<Part> parts = new ArrayList<>();
  private final PartsByPath taken = new PartsByPath();
  private final Deque<String> names = new ArrayDeque<>();
  private final StringBuilder naming = new StringBuilder();
  private NamedFiles named;
  private String root = "";

  SectionWalk(Readings readings, Sections rule) {
    this.readings = readings;
    this.rule = rule;
  }

  /** An element that is not closed yet; {@code id} is null if it is no part of its own. */
  private static final class Level {
    private final String id;
    private final String parent;
    private final String label;
    private final int place;
    private final boolean hidden;
    private final ContentHash content = new ContentHash();
    private final StringBuilder unhashed = new StringBuilder();
    private final StringBuilder spaces = new StringBuilder();
    private boolean inText;
    private int elements = 1;

    Level(String id, String parent, String label, int place, boolean hidden) {
      this.id = id;
      this.parent = parent;
      this.label = label;
      this.place = place;
      this.hidden = hidden;
    }

    void add(String text) {
      unhashed.append(text);
      if (unhashed.length() >= PIECE) {
        flush();
      }
    }

    /** Without the white space around it, in however many pieces it comes. */
    void addText(String piece) {
      int from = 0;
      int to = piece.length();
      while (from < to && !inText && Character.isWhitespace(piece.charAt(from))) {
        from++;
      }
      while (to > from && Character.isWhitespace(piece.charAt(to - 1))) {
        to--;
      }
      if (to > from) {
        inText = true;
        add(spaces.toString());
        spaces.setLength(0);
        add(piece.substring(from, to));
      }
      if (inText) {
        spaces.append(piece, Math.max(from, to), piece.length());
      }
    }

    void endText() {
      inText = false;
      spaces.setLength(0);
    }

    String digest() {
      flush();
      return content.id().toString();
    }

    private void flush() {
      byte[] bytes = unhashed.toString().getBytes(StandardCharsets.UTF_8);
      content.add(bytes, 0, bytes.length);
      unhashed.setLength(0);
    }
  }

  String root() {
    return root;
  }

  /** Hands over what was found. */
  void give() {
    parts.stream().filter(p -> p != null).forEach(readings::part);
  }

  private void link(NamedFiles named, String text) {
    named.in(text).forEach(span -> readings.link(new Link(span.of(text), named.kind())));
  }

  void event(int event, XMLStreamReader at) {
    if (event == XMLStreamConstants.START_ELEMENT) {
      begin(at);
    } else if (event == XMLStreamConstants.END_ELEMENT) {
      end();
    } else if (event == XMLStreamConstants.CHARACTERS && !open.isEmpty()) {
      open.peek().addText(at.getText());
      if (named != null) {
        naming.append(at.getText());
      }
    }
  }

  private void begin(XMLStreamReader at) {
    String name = at.getLocalName();
    named = NamedFiles.inText(names.isEmpty() ? "" : names.peek(), name).orElse(null);
    naming.setLength(0);
    names.push(name);
    if (open.isEmpty()) {
      root = name;
    } else {
      open.peek().endText();
    }
    Map<String, String> attributes = new TreeMap<>();
    for (int i = 0; i < at.getAttributeCount(); i++) {
      attributes.put(at.getAttributeLocalName(i), at.getAttributeValue(i).strip());
    }
    attributes.forEach(
        (attribute, value) ->
            NamedFiles.inAttribute(name, attribute).ifPresent(named -> link(named, value)));
    String label = rule.label(name, attributes::get);
    boolean isPart = !open.isEmpty() && rule.isPart(name, attributes::get);
    attributes.remove("id");
    String above = open.stream().map(l -> l.id).filter(i -> i != null).findFirst().orElse(null);
    isPart &= parts.size() < MOST_PARTS;
    String id = isPart ? taken.unique((above == null ? "" : above + "/") + label) : null;
    if (isPart) {
      parts.add(null);
    }
    boolean hidden =
        "none".equals(attributes.get("display"))
            || attributes.getOrDefault("style", "").replace(" ", "").contains("display:none");
    Level level = new Level(id, above, label, parts.size() - 1, hidden);
    level.add(name + attributes);
    open.push(level);
  }

  private void end() {
    names.pop();
    if (named != null) {
      link(named, naming.toString());
      named = null;
    }
    Level level = open.pop();
    level.endText();
    String digest = level.digest();
    if (level.id != null) {
      parts.set(
          level.place,
          Part.of(
              level.id,
              level.parent,
              level.label,
              rule.kind(),
              Map.of(
                  "elements",
                  new Measure(level.elements, ""),
                  "off",
                  new Measure(level.hidden ? 1 : 0, "")),
              digest));
    }
    if (!open.isEmpty()) {
      open.peek().elements += level.elements;
      if (level.id == null) {
        open.peek().add(digest);
      }
    }
  }
}
