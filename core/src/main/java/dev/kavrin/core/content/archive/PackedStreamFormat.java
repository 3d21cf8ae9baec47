package dev.kavrin.core.content.archive;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Format;

/** Single files packed by gzip (RFC 1952) or Zstandard (RFC 8878). */
public enum PackedStreamFormat implements Format {
  GZIP(StreamReader.gzip()),
  ZSTANDARD(StreamReader.zstandard());

  private final ContentReader reader;

  PackedStreamFormat(ContentReader reader) {
    this.reader = reader;
  }

  @Override
  public ContentReader reader() {
    return reader;
  }

  @Override
  public boolean packs() {
    return true;
  }
}
