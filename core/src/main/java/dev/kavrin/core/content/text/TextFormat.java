package dev.kavrin.core.content.text;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.PartWriter;
import java.util.Optional;

/** Plain text in sections, by what begins a section. */
public enum TextFormat implements Format {
  BRACKETS(Headings.BRACKETS),
  SIGNS(Headings.SIGNS),
  KEYWORDS(Headings.KEYWORDS);

  private final ContentReader reader;

  TextFormat(Headings headings) {
    this.reader = new TextReader(headings);
  }

  @Override
  public ContentReader reader() {
    return reader;
  }

  @Override
  public Optional<PartWriter> parts() {
    return Optional.of(new TextParts());
  }

  @Override
  public boolean tellsWholeness() {
    return false;
  }
}
