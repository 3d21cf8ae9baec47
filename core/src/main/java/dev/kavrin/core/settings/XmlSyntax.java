package dev.kavrin.core.settings;

import java.io.StringReader;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/**
 * XML without a document type. An element is named by its tag, or {@code tag[name]} if it has an
 * attribute {@code name}, {@code key} or {@code id}; an attribute by {@code @name}. Well-formedness
 * is the JDK's to judge; where each value stands no parser tells, so that is found here.
 */
final class XmlSyntax implements Syntax {
  private static final Pattern MARKUP =
      Pattern.compile(
          "<!--.*?-->|<!\\[CDATA\\[.*?]]>|<\\?.*?\\?>|</\\s*([^\\s>]+)\\s*>"
              + "|<([^\\s/>!?]+)((?:\\s+[^\\s=/>]+\\s*=\\s*(?:\"[^\"]*\"|'[^']*'))*)\\s*(/?)>",
          Pattern.DOTALL);
  private static final Pattern ATTRIBUTE =
      Pattern.compile("([^\\s=]+)\\s*=\\s*(\"[^\"]*\"|'[^']*')");
  private static final Pattern NAMING = Pattern.compile("name|key|id");

  private static final class Element {
    private final String path;
    private final int inside;
    private final int tagEnd;
    private boolean children;

    Element(String path, int inside, int tagEnd) {
      this.path = path;
      this.inside = inside;
      this.tagEnd = tagEnd;
    }
  }

  /** An element as it stands; {@code closes} where its closing tag begins, −1 if it has none. */
  private record Block(String path, int inside, int tagEnd, int closes) {}

  private record Scan(List<SettingsEntry> entries, List<Block> blocks) {}

  @Override
  public List<SettingsEntry> entries(String text) throws SettingsException {
    wellFormed(text);
    return scan(text).entries();
  }

  private static void wellFormed(String text) throws SettingsException {
    XMLInputFactory factory = XMLInputFactory.newFactory();
    factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
    factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
    if (text.contains("<!DOCTYPE")) {
      throw new SettingsException("It declares a document type, which is not read");
    }
    try {
      XMLStreamReader reader = factory.createXMLStreamReader(new StringReader(text));
      while (reader.hasNext()) {
        reader.next();
      }
    } catch (XMLStreamException broken) {
      throw new SettingsException(
          "It is no XML: " + broken.getMessage().lines().findFirst().orElse(""));
    }
  }

  private static Scan scan(String text) {
    List<SettingsEntry> entries = new ArrayList<>();
    List<Block> blocks = new ArrayList<>();
    Deque<Element> open = new ArrayDeque<>();
    Matcher markup = MARKUP.matcher(text);
    while (markup.find()) {
      if (markup.group(2) != null) {
        if (!open.isEmpty()) {
          open.peek().children = true;
        }
        Element element = opened(markup, open.isEmpty() ? "" : open.peek().path + "/", entries);
        if (markup.group(4).isEmpty()) {
          open.push(element);
        } else {
          blocks.add(new Block(element.path, element.inside, element.tagEnd, -1));
        }
      } else if (markup.group(1) != null && !open.isEmpty()) {
        Element done = open.pop();
        blocks.add(new Block(done.path, done.inside, done.tagEnd, markup.start()));
        if (!done.children) {
          entries.add(leaf(text, done, markup.start()));
        }
      }
    }
    return new Scan(entries, blocks);
  }

  private static Element opened(Matcher tag, String parent, List<SettingsEntry> entries) {
    List<SettingsEntry> own = new ArrayList<>();
    String label = tag.group(2);
    Matcher attribute = ATTRIBUTE.matcher(tag.group(3));
    boolean named = false;
    while (attribute.find()) {
      String quoted = attribute.group(2);
      String value = plain(quoted.substring(1, quoted.length() - 1));
      if (!named && NAMING.matcher(attribute.group(1)).matches()) {
        label += "[" + value + "]";
        named = true;
      } else {
        int from = tag.start(3) + attribute.start(2);
        own.add(new SettingsEntry("@" + attribute.group(1), value, from, from + quoted.length()));
      }
    }
    String path = parent + label;
    own.forEach(
        e -> entries.add(new SettingsEntry(path + "/" + e.key(), e.value(), e.from(), e.to())));
    return new Element(path, tag.end(), tag.end(2));
  }

  private static SettingsEntry leaf(String text, Element element, int closes) {
    int from = element.inside;
    int to = closes;
    while (from < to && Character.isWhitespace(text.charAt(from))) {
      from++;
    }
    while (to > from && Character.isWhitespace(text.charAt(to - 1))) {
      to--;
    }
    return new SettingsEntry(element.path, plain(text.substring(from, to)), from, to);
  }

  private static String plain(String raw) {
    if (raw.startsWith("<![CDATA[") && raw.endsWith("]]>")) {
      return raw.substring(9, raw.length() - 3);
    }
    Matcher number = Pattern.compile("&#(x[0-9a-fA-F]+|\\d+);").matcher(raw);
    String text =
        number.replaceAll(
            m ->
                Matcher.quoteReplacement(
                    Character.toString(
                        m.group(1).startsWith("x")
                            ? Integer.parseInt(m.group(1).substring(1), 16)
                            : Integer.parseInt(m.group(1)))));
    return text.replace("&lt;", "<")
        .replace("&gt;", ">")
        .replace("&quot;", "\"")
        .replace("&apos;", "'")
        .replace("&amp;", "&");
  }

  private static String escaped(String value) {
    return value
        .replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("\"", "&quot;")
        .replace("'", "&apos;");
  }

  @Override
  public String raw(String value, String raw) throws SettingsException {
    if (raw.contains("<!--")) {
      throw new SettingsException("A comment stands within the value");
    }
    char quote = raw.isEmpty() ? 0 : raw.charAt(0);
    boolean attribute = quote == '"' || quote == '\'';
    return attribute ? quote + escaped(value) + quote : escaped(value);
  }

  @Override
  public String added(String text, String key, String value) throws SettingsException {
    String parent = Syntax.parent(key);
    String name = Syntax.name(key);
    Block block =
        scan(text).blocks().stream()
            .filter(b -> b.path().equals(parent))
            .findFirst()
            .orElseThrow(() -> new SettingsException("There is no " + parent + " to put it into"));
    if (name.startsWith("@")) {
      String attribute = " " + name.substring(1) + "=\"" + escaped(value) + "\"";
      return text.substring(0, block.tagEnd()) + attribute + text.substring(block.tagEnd());
    }
    if (block.closes() < 0 || !name.matches("[\\w.-]+")) {
      throw new SettingsException(name + " cannot be put into " + parent);
    }
    int behind = block.closes();
    while (behind > block.inside() && Character.isWhitespace(text.charAt(behind - 1))) {
      behind--;
    }
    String gap = text.substring(behind, block.closes());
    String indent = gap.contains("\n") ? gap + "  " : "";
    String element = "<" + name + ">" + escaped(value) + "</" + name + ">";
    return text.substring(0, behind) + indent + element + text.substring(behind);
  }
}
