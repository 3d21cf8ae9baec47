package dev.kavrin.core.content.markup;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.Optional;

/**
 * SVG: its parts are the groups, and whatever else has an id, each with all that stands in it.
 * Source: W3C, Scalable Vector Graphics 2, sections 5.2 and 5.7.
 */
public final class SvgReader implements ContentReader {
  @Override
  public boolean reads(String ext) {
    return Sections.SVG.reads(ext);
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Readings readings = new Readings("svg");
    SectionWalk walk = new SectionWalk(readings, Sections.SVG);
    Optional<Reading> broken = XmlWalk.through(in, readings, walk::event);
    if (broken.isEmpty() && !walk.root().equals("svg")) {
      return readings.broken(0, "Its outermost element is " + walk.root() + ", not svg.");
    }
    walk.give();
    return broken.orElseGet(readings::done);
  }
}
