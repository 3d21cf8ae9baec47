package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.LineBytes;
import java.io.IOException;
import java.io.InputStream;

/** Group codes and values, one pair after the other. Not for two threads. */
final class DxfPairs {
  private static final String END = "EOF";

  private final LineBytes lines;
  private int code;
  private String value;

  DxfPairs(InputStream in) {
    lines = new LineBytes(in);
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

  /** Reads the next pair; false behind the end mark. */
  boolean next() throws IOException {
    code = number(line());
    value = line();
    return code != 0 || !value.equals(END);
  }

  int code() {
    return code;
  }

  /** Without space around it. */
  String value() {
    return value;
  }

  /** A line without an end is one that was cut, unless it is the end mark. */
  private String line() throws IOException {
    boolean there = lines.next();
    if (there && lines.hasZeros()) {
      throw new NoPair(false, "Line " + lines.number() + " holds zero bytes.");
    }
    String text = there ? lines.text() : "";
    if (!there || !lines.isEnded() && !text.equals(END)) {
      throw new NoPair(true, "It ends before its end mark");
    }
    return text;
  }

  private int number(String text) throws NoPair {
    try {
      return Integer.parseInt(text);
    } catch (NumberFormatException noCode) {
      throw new NoPair(false, "Line " + lines.number() + " is no group code.");
    }
  }
}
