package dev.kavrin.core.content.markup;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader.Reading;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Readings;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.Optional;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/** Goes through XML event by event. A document type is not read: it could lead out of the file. */
public final class XmlWalk {
  private XmlWalk() {}

  /** Told of each event. */
  public interface Visitor {
    void event(int event, XMLStreamReader at) throws XMLStreamException;
  }

  /** What is wrong, as a finished reading; empty if it is well formed to its end. */
  public static Optional<Reading> through(
      SeekableByteChannel in, Readings readings, Visitor visitor) throws IOException {
    if (in.size() == 0) {
      return Optional.of(readings.empty());
    }
    XMLInputFactory factory = XMLInputFactory.newDefaultFactory();
    factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
    factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
    factory.setXMLReporter((message, type, information, location) -> {});
    try {
      XMLStreamReader reader = factory.createXMLStreamReader(Bytes.from(in, 0));
      while (reader.hasNext()) {
        int event = reader.next();
        visitor.event(event, reader);
        if (event == XMLStreamConstants.DTD) {
          readings.found(
              new Finding(
                  "document-type",
                  Finding.Severity.NOTE,
                  reader.getLocation().getCharacterOffset(),
                  "It brings a document type, which is not read.",
                  "Nothing to do."));
        }
      }
      return Optional.empty();
    } catch (XMLStreamException broken) {
      long at = broken.getLocation() == null ? -1 : broken.getLocation().getCharacterOffset();
      String why = broken.getMessage().replaceFirst("(?s).*Message: ", "");
      return Optional.of(
          why.contains("end of") || why.contains("must start and end within")
              ? readings.cutShort(in.size(), "It ends before its last element is closed.")
              : readings.broken(at, "It is no well-formed XML: " + why));
    } catch (RuntimeException broken) {
      return Optional.of(readings.broken(-1, "It is no well-formed XML: " + broken.getMessage()));
    }
  }
}
