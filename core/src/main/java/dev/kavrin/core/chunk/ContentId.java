package dev.kavrin.core.chunk;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a file holds, by length and XXH3-128. Equal ids mean "very likely the same bytes"; before
 * one copy goes because another exists, the bytes themselves are compared.
 *
 * @param length bytes, not negative
 * @param high upper half of the digest
 * @param low lower half of the digest
 */
public record ContentId(long length, long high, long low) implements Comparable<ContentId> {
  private static final Pattern TEXT = Pattern.compile("(\\d{1,18})-([0-9a-f]{16})([0-9a-f]{16})");

  public ContentId {
    if (length < 0) {
      throw new IllegalArgumentException("Content length is negative: " + length);
    }
  }

  /** Reads what {@link #toString} wrote. */
  @JsonCreator
  public static ContentId parse(String text) {
    Matcher m = TEXT.matcher(text);
    if (!m.matches()) {
      throw new IllegalArgumentException("Not a content id: '" + text + "'");
    }
    return new ContentId(
        Long.parseLong(m.group(1)),
        Long.parseUnsignedLong(m.group(2), 16),
        Long.parseUnsignedLong(m.group(3), 16));
  }

  /** The digest alone, 32 lower-case hexadecimal digits. */
  public String digest() {
    return String.format("%016x%016x", high, low);
  }

  @Override
  @JsonValue
  public String toString() {
    return length + "-" + digest();
  }

  @Override
  public int compareTo(ContentId other) {
    return toString().compareTo(other.toString());
  }
}
