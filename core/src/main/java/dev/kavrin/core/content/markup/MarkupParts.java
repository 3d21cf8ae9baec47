package dev.kavrin.core.content.markup;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.PartWriter;
import dev.kavrin.core.content.PartsByPath;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.XMLConstants;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import javax.xml.transform.TransformerException;
import javax.xml.transform.TransformerFactory;
import javax.xml.transform.dom.DOMSource;
import javax.xml.transform.stream.StreamResult;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.NamedNodeMap;
import org.w3c.dom.Node;
import org.xml.sax.SAXException;

/** Parts of SVG and other XML documents, with what they refer to. */
public final class MarkupParts implements PartWriter {
  private static final long LARGEST = 64_000_000;
  private static final String NAMESPACE = "http://www.w3.org/2000/svg";
  private static final Pattern REFERENCE = Pattern.compile("url\\(['\"]?#([^)'\"]+)['\"]?\\)");

  private final Sections rule;

  private MarkupParts(Sections rule) {
    this.rule = rule;
  }

  /** Groups of SVG, and whatever else has an id. */
  public static PartWriter ofSvg() {
    return new MarkupParts(Sections.SVG);
  }

  /** What has an id or a name. */
  public static PartWriter ofXml() {
    return new MarkupParts(Sections.XML);
  }

  @Override
  public List<Brought> write(Opened base, List<Wanted> wanted, OutputStream out)
      throws IOException {
    Document into = tree(base);
    List<Brought> brought = new ArrayList<>();
    for (Wanted some : wanted) {
      Map<String, Element> from = parts(tree(some.from()));
      for (String part : some.parts()) {
        Element element = from.get(part);
        if (element == null) {
          throw new CannotTake(part + " is not in that version.");
        }
        brought.add(put(into, element, part));
      }
    }
    try {
      TransformerFactory factory = TransformerFactory.newDefaultInstance();
      factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
      factory.newTransformer().transform(new DOMSource(into), new StreamResult(out));
    } catch (TransformerException impossible) {
      throw new IOException(impossible);
    }
    return brought;
  }

  private static Document tree(Opened file) throws IOException {
    if (file.in().size() > LARGEST) {
      throw new CannotTake("The file is too large to be taken apart. Restore the whole version.");
    }
    try {
      DocumentBuilderFactory factory = DocumentBuilderFactory.newDefaultNSInstance();
      factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
      factory.setFeature("http://apache.org/xml/features/nonvalidating/load-external-dtd", false);
      factory.setFeature("http://xml.org/sax/features/external-general-entities", false);
      factory.setExpandEntityReferences(false);
      return factory.newDocumentBuilder().parse(Bytes.from(file.in(), 0));
    } catch (ParserConfigurationException | SAXException broken) {
      throw new CannotTake("One of the two files is not well formed.");
    }
  }

  /** By the ids the inventory gives them. */
  private Map<String, Element> parts(Document document) {
    Map<String, Element> parts = new LinkedHashMap<>();
    PartsByPath taken = new PartsByPath();
    below(document.getDocumentElement(), "", parts, taken);
    return parts;
  }

  private void below(Element element, String above, Map<String, Element> parts, PartsByPath taken) {
    for (Node node = element.getFirstChild(); node != null; node = node.getNextSibling()) {
      if (node instanceof Element child) {
        String path = above;
        if (rule.isPart(child.getLocalName(), name -> attribute(child, name))) {
          String label = rule.label(child.getLocalName(), name -> attribute(child, name));
          path = taken.unique((above.isEmpty() ? "" : above + "/") + label);
          parts.put(path, child);
        }
        below(child, path, parts, taken);
      }
    }
  }

  /** By its local name; null if there is none. */
  @Nullable
  private static String attribute(Element element, String name) {
    NamedNodeMap attributes = element.getAttributes();
    for (int i = 0; i < attributes.getLength(); i++) {
      if (attributes.item(i).getLocalName().equals(name)) {
        return attributes.item(i).getNodeValue();
      }
    }
    return null;
  }

  private Brought put(Document into, Element element, String part) {
    Map<String, Element> present = parts(into);
    Element there = present.get(part);
    Element copy = (Element) into.importNode(element, true);
    if (there != null) {
      there.getParentNode().replaceChild(copy, there);
    } else {
      int slash = part.lastIndexOf('/');
      Element parent = slash < 0 ? null : present.get(part.substring(0, slash));
      (parent == null ? into.getDocumentElement() : parent).appendChild(copy);
    }
    List<String> along = new ArrayList<>();
    List<String> told = new ArrayList<>();
    referred(element, into, along, told);
    return new Brought(part, part, there != null, along, told);
  }

  /** What it refers to in its own document and what is not there now. */
  private void referred(Element element, Document into, List<String> along, List<String> told) {
    NamedNodeMap attributes = element.getAttributes();
    for (int i = 0; i < attributes.getLength(); i++) {
      Attr attribute = (Attr) attributes.item(i);
      String value = attribute.getValue().strip();
      if (value.startsWith("#") && rule == Sections.XML) {
        tell(value.substring(1), element, into, told);
      } else if (attribute.getLocalName().equals("href") && value.startsWith("#")) {
        bring(value.substring(1), element, into, along, told);
      }
      Matcher matcher = REFERENCE.matcher(value);
      while (matcher.find()) {
        bring(matcher.group(1), element, into, along, told);
      }
    }
    for (Node node = element.getFirstChild(); node != null; node = node.getNextSibling()) {
      if (node instanceof Element child) {
        referred(child, into, along, told);
      }
    }
  }

  /** Where a definition belongs in other XML nobody knows; it is only said what is missing. */
  private static void tell(String id, Element user, Document into, List<String> told) {
    boolean here = byId(into.getDocumentElement(), id) != null;
    if (!here && byId(user.getOwnerDocument().getDocumentElement(), id) != null) {
      told.add("it refers to " + id + ", which is not in today's file; take that too");
    }
  }

  private void bring(
      String id, Element user, Document into, List<String> along, List<String> told) {
    Element source = byId(user.getOwnerDocument().getDocumentElement(), id);
    Element there = byId(into.getDocumentElement(), id);
    if (source == null) {
      told.add("what it calls " + id + " is missing in its own version, too");
    } else if (there == null) {
      Element definitions = (Element) into.getElementsByTagNameNS(NAMESPACE, "defs").item(0);
      if (definitions == null) {
        definitions = into.createElementNS(NAMESPACE, "defs");
        into.getDocumentElement()
            .insertBefore(definitions, into.getDocumentElement().getFirstChild());
      }
      definitions.appendChild(into.importNode(source, true));
      along.add(id);
      referred(source, into, along, told);
    } else if (!there.isEqualNode(source)) {
      told.add("it is drawn with the " + id + " of now, which differs from that of then");
    }
  }

  private static Element byId(Element element, String id) {
    if (element.getAttribute("id").equals(id)) {
      return element;
    }
    for (Node node = element.getFirstChild(); node != null; node = node.getNextSibling()) {
      Element found = node instanceof Element child ? byId(child, id) : null;
      if (found != null) {
        return found;
      }
    }
    return null;
  }
}
