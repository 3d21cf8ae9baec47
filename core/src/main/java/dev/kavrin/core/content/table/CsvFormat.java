package dev.kavrin.core.content.table;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;

/** Comma- or tab-separated values (RFC 4180). */
public final class CsvFormat implements Format {
  @Override
  public ContentReader reader() {
    return new CsvReader();
  }
}
