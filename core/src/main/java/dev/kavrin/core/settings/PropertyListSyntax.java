package dev.kavrin.core.settings;

import java.io.StringReader;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Set;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/**
 * A property list as XML: in a {@code dict} each {@code key} names what follows it, in an {@code
 * array} its place does. Its document type is never fetched. Common practice; from memory.
 */
final class PropertyListSyntax extends ReadSyntax {
  private static final Set<String> TEXTS = Set.of("string", "integer", "real", "date", "data");
  private static final Set<String> FLAGS = Set.of("true", "false");

  /** A dict or an array that is open. */
  private static final class Level {
    private final String path;
    private final boolean array;
    private String name = "";
    private int place;

    Level(String path, boolean array) {
      this.path = path;
      this.array = array;
    }

    String next() {
      String own = array ? String.valueOf(++place) : name;
      return path.isEmpty() ? own : path + "/" + own;
    }
  }

  @Override
  public List<SettingsEntry> entries(String text) throws SettingsException {
    XMLInputFactory factory = XMLInputFactory.newFactory();
    factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
    factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
    try {
      return read(factory.createXMLStreamReader(new StringReader(text)));
    } catch (XMLStreamException broken) {
      throw new SettingsException(
          "It is no XML: " + broken.getMessage().lines().findFirst().orElse(""));
    }
  }

  private static List<SettingsEntry> read(XMLStreamReader in)
      throws XMLStreamException, SettingsException {
    List<SettingsEntry> entries = new ArrayList<>();
    Deque<Level> open = new ArrayDeque<>();
    boolean list = false;
    while (in.hasNext()) {
      int event = in.next();
      if (event == XMLStreamConstants.START_ELEMENT) {
        String tag = in.getLocalName();
        list |= tag.equals("plist");
        begin(tag, in, open, entries);
      } else if (event == XMLStreamConstants.END_ELEMENT && !open.isEmpty()) {
        if (Set.of("dict", "array").contains(in.getLocalName())) {
          open.pop();
        }
      }
    }
    if (!list) {
      throw new SettingsException("It is XML, but no property list");
    }
    return entries;
  }

  private static void begin(
      String tag, XMLStreamReader in, Deque<Level> open, List<SettingsEntry> entries)
      throws XMLStreamException {
    if (tag.equals("dict") || tag.equals("array")) {
      open.push(new Level(open.isEmpty() ? "" : open.peek().next(), tag.equals("array")));
    } else if (tag.equals("key") && !open.isEmpty()) {
      open.peek().name = in.getElementText();
    } else if (!open.isEmpty() && FLAGS.contains(tag)) {
      entries.add(entry(open.peek().next(), tag));
    } else if (!open.isEmpty() && TEXTS.contains(tag)) {
      String key = open.peek().next();
      entries.add(entry(key, in.getElementText().strip()));
    }
  }
}
