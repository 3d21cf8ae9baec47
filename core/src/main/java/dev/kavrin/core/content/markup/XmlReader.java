package dev.kavrin.core.content.markup;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import javax.xml.stream.XMLStreamConstants;

/**
 * XML 1.0, well formed to its end. Its parts are what has an id or a name, and the kinds of
 * elements with their counts. Source: W3C, Extensible Markup Language 1.0 (Fifth Edition), section
 * 2.1.
 */
public final class XmlReader implements ContentReader {
  private static final int MOST_KINDS = 2_000;

  @Override
  public boolean reads(String ext) {
    return Sections.XML.reads(ext);
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
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Readings readings = new Readings("xml");
    Map<String, Integer> kinds = new TreeMap<>();
    SectionWalk sections = new SectionWalk(readings, Sections.XML);
    Optional<Reading> broken =
        XmlWalk.through(
            in,
            readings,
            (event, at) -> {
              sections.event(event, at);
              if (event == XMLStreamConstants.START_ELEMENT
                  && (kinds.size() < MOST_KINDS || kinds.containsKey(at.getLocalName()))) {
                kinds.merge(at.getLocalName(), 1, Integer::sum);
              }
            });
    if (broken.isPresent()) {
      return broken.get();
    }
    sections.give();
    kinds.forEach(
        (name, count) ->
            readings.part(
                Part.of(
                    "<" + name + ">",
                    null,
                    "<" + name + ">",
                    "element",
                    Map.of("count", new Measure(count, "")),
                    null)));
    return readings.done();
  }
}
