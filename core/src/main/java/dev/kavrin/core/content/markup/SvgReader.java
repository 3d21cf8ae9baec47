package dev.kavrin.core.content.markup;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Beside;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.PartsByPath;
import dev.kavrin.core.content.Readings;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamReader;

/**
 * SVG: its parts are the groups, and whatever else has an id, each with all that stands in it.
 * Source: W3C, Scalable Vector Graphics 2, sections 5.2 and 5.7.
 */
public final class SvgReader implements ContentReader {
  private static final int MOST_PARTS = 5_000;

  @Override
  public boolean reads(String ext) {
    return ext.equals("svg");
  }

  @Override
  public Reading read(SeekableByteChannel in, Beside beside) throws IOException {
    Readings readings = new Readings("svg");
    Walk walk = new Walk(readings);
    Optional<Reading> broken = XmlWalk.through(in, readings, walk::event);
    if (broken.isEmpty() && !walk.root.equals("svg")) {
      return readings.broken(0, "Its outermost element is " + walk.root + ", not svg.");
    }
    walk.parts.stream().filter(p -> p != null).forEach(readings::part);
    return broken.orElseGet(readings::done);
  }

  private static final class Walk {
    private final Readings readings;
    private final Deque<Level> open = new ArrayDeque<>();
    private final List<Part> parts = new ArrayList<>();
    private final PartsByPath taken = new PartsByPath();
    private String root = "";

    Walk(Readings readings) {
      this.readings = readings;
    }

    /** An element that is not closed yet; {@code id} is null if it is no part of its own. */
    private static final class Level {
      private final String id;
      private final String parent;
      private final String label;
      private final int place;
      private final boolean hidden;
      private final StringBuilder content = new StringBuilder();
      private int elements = 1;

      Level(String id, String parent, String label, int place, boolean hidden) {
        this.id = id;
        this.parent = parent;
        this.label = label;
        this.place = place;
        this.hidden = hidden;
      }
    }

    void event(int event, XMLStreamReader at) {
      if (event == XMLStreamConstants.START_ELEMENT) {
        begin(at);
      } else if (event == XMLStreamConstants.END_ELEMENT) {
        end();
      } else if (event == XMLStreamConstants.CHARACTERS && !open.isEmpty()) {
        open.peek().content.append(at.getText().strip());
      }
    }

    private void begin(XMLStreamReader at) {
      String name = at.getLocalName();
      if (open.isEmpty()) {
        root = name;
      }
      Map<String, String> attributes = new TreeMap<>();
      for (int i = 0; i < at.getAttributeCount(); i++) {
        attributes.put(at.getAttributeLocalName(i), at.getAttributeValue(i).strip());
      }
      String href = attributes.getOrDefault("href", "");
      if (name.equals("image") && !href.isEmpty() && !href.startsWith("data:")) {
        readings.link(new Link(href, "picture"));
      }
      String own = attributes.remove("id");
      String above = open.stream().map(l -> l.id).filter(i -> i != null).findFirst().orElse(null);
      boolean isPart =
          !open.isEmpty() && (own != null || name.equals("g")) && parts.size() < MOST_PARTS;
      String label =
          attributes.containsKey("label") ? attributes.get("label") : own == null ? name : own;
      String id = isPart ? taken.unique((above == null ? "" : above + "/") + label) : null;
      if (isPart) {
        parts.add(null);
      }
      boolean hidden =
          "none".equals(attributes.get("display"))
              || attributes.getOrDefault("style", "").replace(" ", "").contains("display:none");
      Level level = new Level(id, above, label, parts.size() - 1, hidden);
      level.content.append(name).append(attributes);
      open.push(level);
    }

    private void end() {
      Level level = open.pop();
      String digest =
          ContentHash.of(level.content.toString().getBytes(StandardCharsets.UTF_8)).toString();
      if (level.id != null) {
        parts.set(
            level.place,
            Part.of(
                level.id,
                level.parent,
                level.label,
                "shape",
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
          open.peek().content.append(digest);
        }
      }
    }
  }
}
