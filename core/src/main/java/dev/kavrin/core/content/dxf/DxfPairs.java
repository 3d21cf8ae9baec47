package dev.kavrin.core.content.dxf;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Group codes and values, one pair after the other. Not for two threads. */
final class DxfPairs {
  private static final int LONGEST_LINE = 1 << 16;

  private final InputStream in;
  private final byte[] block = new byte[1 << 16];
  private int at;
  private int end;
  private byte[] line = new byte[256];
  private int length;
  private long lines;

  DxfPairs(InputStream in) {
    this.in = in;
  }

  /** Thrown where no pair can be read. */
  static final class NoPair extends IOException {
    private final boolean cut;

    private NoPair(boolean cut, String words) {
      super(words);
      this.cut = cut;
    }

    /** True if the file ended, false if a line is no group code. */
    boolean isCut() {
      return cut;
    }
  }

  private int code;
  private String value;

  /** Reads the next pair; false behind the end mark. */
  boolean next() throws IOException {
    if (!line()) {
      throw new NoPair(true, "It ends before its end mark");
    }
    code = number();
    if (!line()) {
      throw new NoPair(true, "It ends before its end mark");
    }
    value = text();
    return code != 0 || !value.equals("EOF");
  }

  int code() {
    return code;
  }

  /** Without space around it. */
  String value() {
    return value;
  }

  private String text() {
    int from = 0;
    int to = length;
    while (from < to && line[from] <= ' ' && line[from] >= 0) {
      from++;
    }
    while (to > from && line[to - 1] <= ' ' && line[to - 1] >= 0) {
      to--;
    }
    return new String(line, from, to - from, StandardCharsets.ISO_8859_1);
  }

  private int number() throws NoPair {
    try {
      return Integer.parseInt(text());
    } catch (NumberFormatException noCode) {
      throw new NoPair(false, "Line " + lines + " is no group code.");
    }
  }

  /** False at the end; a line without an end is one that was cut, unless it is the end mark. */
  private boolean line() throws IOException {
    length = 0;
    while (true) {
      if (at == end) {
        end = in.read(block);
        at = 0;
        if (end < 0) {
          end = 0;
          return text().equals("EOF");
        }
      }
      int from = at;
      while (at < end && block[at] != '\n' && block[at] != 0) {
        at++;
      }
      keep(from, at - from);
      if (at < end && block[at] == 0) {
        throw new NoPair(false, "Line " + (lines + 1) + " holds zero bytes.");
      }
      if (at < end) {
        at++;
        lines++;
        return true;
      }
    }
  }

  private void keep(int from, int count) {
    int kept = Math.min(count, LONGEST_LINE - length);
    if (length + kept > line.length) {
      line = Arrays.copyOf(line, Math.max(line.length * 2, length + kept));
    }
    System.arraycopy(block, from, line, length, kept);
    length += kept;
  }
}
