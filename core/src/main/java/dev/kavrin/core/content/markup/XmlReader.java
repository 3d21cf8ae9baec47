package dev.kavrin.core.content.markup;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/**
 * XML 1.0, well formed to its end. A document type is not read: it could lead out of the file. Its
 * parts are the kinds of elements with their counts. Source: W3C, Extensible Markup Language 1.0
 * (Fifth Edition), section 2.1.
 */
public final class XmlReader implements ContentReader {
  private static final int MOST_KINDS = 2_000;

  @Override
  public boolean reads(String ext) {
    return List.of("xml", "svg", "dae", "x3d", "gpx", "kml").contains(ext);
  }

  @Override
  public boolean recognises(ByteBuffer head) {
    return head.remaining() >= 5
        && head.get(0) == '<'
        && head.get(1) == '?'
        && head.get(2) == 'x'
        && head.get(3) == 'm'
        && head.get(4) == 'l';
  }

  @Override
  public Reading read(SeekableByteChannel in) throws IOException {
    Readings readings = new Readings("xml");
    if (in.size() == 0) {
      return readings.empty();
    }
    XMLInputFactory factory = XMLInputFactory.newDefaultFactory();
    factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
    factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
    factory.setXMLReporter((message, type, information, location) -> {});
    Map<String, Integer> kinds = new TreeMap<>();
    try {
      XMLStreamReader reader = factory.createXMLStreamReader(Bytes.from(in, 0));
      while (reader.hasNext()) {
        int event = reader.next();
        if (event == XMLStreamConstants.START_ELEMENT
            && (kinds.size() < MOST_KINDS || kinds.containsKey(reader.getLocalName()))) {
          kinds.merge(reader.getLocalName(), 1, Integer::sum);
        } else if (event == XMLStreamConstants.DTD) {
          readings.found(
              new Finding(
                  "document-type",
                  Finding.Severity.NOTE,
                  reader.getLocation().getCharacterOffset(),
                  "It brings a document type, which is not read.",
                  "Nothing to do."));
        }
      }
    } catch (XMLStreamException broken) {
      long at = broken.getLocation() == null ? -1 : broken.getLocation().getCharacterOffset();
      String why = broken.getMessage().replaceFirst("(?s).*Message: ", "");
      return why.contains("end of") || why.contains("must start and end within")
          ? readings.cutShort(in.size(), "It ends before its last element is closed.")
          : readings.broken(at, "It is no well-formed XML: " + why);
    } catch (RuntimeException broken) {
      return readings.broken(-1, "It is no well-formed XML: " + broken.getMessage());
    }
    kinds.forEach(
        (name, count) ->
            readings.part(
                Part.of(
                    name, null, name, "element", Map.of("count", new Measure(count, "")), null)));
    return readings.done();
  }
}
