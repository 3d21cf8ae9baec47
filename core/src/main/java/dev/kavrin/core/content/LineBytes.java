package dev.kavrin.core.content;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Lines of a text file as bytes, in a buffer that is used again. Not for two threads. */
public final class LineBytes {
  private static final int LONGEST = 1 << 20;

  private final InputStream in;
  private final byte[] block = new byte[1 << 16];
  private int at;
  private int end;
  private byte[] line = new byte[256];
  private int length;
  private long number;
  private long start;
  private long consumed;
  private boolean ended = true;
  private boolean zeros;

  public LineBytes(InputStream in) {
    this.in = in;
  }

  /** Goes on to the next line; false behind the last. */
  public boolean next() throws IOException {
    length = 0;
    ended = false;
    zeros = false;
    start = consumed;
    while (true) {
      if (at == end) {
        end = in.read(block);
        at = 0;
        if (end < 0) {
          end = 0;
          number += length > 0 ? 1 : 0;
          return length > 0;
        }
      }
      int from = at;
      while (at < end && block[at] != '\n') {
        zeros |= block[at] == 0;
        at++;
      }
      keep(from, at - from);
      consumed += at - from;
      if (at < end) {
        at++;
        consumed++;
        number++;
        ended = true;
        return true;
      }
    }
  }

  private void keep(int from, int count) {
    int kept = Math.min(count, LONGEST - length);
    if (length + kept > line.length) {
      line = Arrays.copyOf(line, Math.max(line.length * 2, length + kept));
    }
    System.arraycopy(block, from, line, length, kept);
    length += kept;
  }

  /** The buffer; only its first {@link #length} bytes belong to the line. */
  public byte[] bytes() {
    return line;
  }

  /** Bytes of the line without its end; what is beyond a megabyte is left out. */
  public int length() {
    return length;
  }

  /** From 1. */
  public long number() {
    return number;
  }

  /** Where the line begins in the file. */
  public long start() {
    return start;
  }

  /** False for a last line that was not brought to its end. */
  public boolean isEnded() {
    return ended;
  }

  public boolean hasZeros() {
    return zeros;
  }

  /** The first byte from there on that is no space; the length if there is none. */
  public int word(int from) {
    int i = from;
    while (i < length && line[i] <= ' ' && line[i] >= 0) {
      i++;
    }
    return i;
  }

  /** The first space from there on; the length if there is none. */
  public int space(int from) {
    int i = from;
    while (i < length && (line[i] > ' ' || line[i] < 0)) {
      i++;
    }
    return i;
  }

  /** What stands between, without space around it. */
  public String text(int from, int to) {
    int start = Math.min(word(from), to);
    int stop = to;
    while (stop > start && line[stop - 1] <= ' ' && line[stop - 1] >= 0) {
      stop--;
    }
    return new String(line, start, stop - start, StandardCharsets.ISO_8859_1);
  }

  /** The same as a name: in UTF-8 as nearly all programs write it, else byte by byte. */
  public String name(int from, int to) {
    return decoded(text(from, to), StandardCharsets.ISO_8859_1);
  }

  /** The whole line without space around it, in UTF-8, else as it says itself. */
  public String text(Charset otherwise) {
    return decoded(text(), otherwise);
  }

  private static String decoded(String bytes, Charset otherwise) {
    if (bytes.chars().allMatch(c -> c < 0x80)) {
      return bytes;
    }
    byte[] raw = bytes.getBytes(StandardCharsets.ISO_8859_1);
    try {
      return StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(raw)).toString();
    } catch (CharacterCodingException another) {
      return new String(raw, otherwise);
    }
  }

  /** The whole line, without space around it. */
  public String text() {
    return text(0, length);
  }

  /** True if it begins with that word. */
  public boolean isAbout(int from, String word) {
    int to = from + word.length();
    if (to > length || to < length && line[to] > ' ') {
      return false;
    }
    for (int i = 0; i < word.length(); i++) {
      if (line[from + i] != word.charAt(i)) {
        return false;
      }
    }
    return true;
  }
}
