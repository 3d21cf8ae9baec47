package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.LineBytes;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;

/** Group codes and values, one pair after the other. Not for two threads. */
final class DxfPairs {
  private static final String END = "EOF";
  private static final int VARIABLE = 9;
  private static final int CODE_PAGE = 3;

  private final LineBytes lines;
  private int code;
  private String value;
  private String variable = "";
  private Charset codePage = CodePages.USUAL;

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

  /**
   * Reads the next pair; false behind the end mark.
   *
   * @throws NoPair it is none, or something stands behind the end mark
   */
  boolean next() throws IOException {
    code = number(line());
    value = line();
    if (code == VARIABLE) {
      variable = value;
    } else if (code == CODE_PAGE && variable.equals("$DWGCODEPAGE")) {
      codePage = CodePages.named(value);
    }
    boolean more = code != 0 || !value.equals(END);
    if (!more) {
      nothingBehind();
    }
    return more;
  }

  private void nothingBehind() throws IOException {
    while (lines.next()) {
      if (!lines.text().isEmpty()) {
        throw broken("stands behind its end mark");
      }
    }
  }

  /** Says what is wrong with the line that was read last. */
  NoPair broken(String what) {
    return new NoPair(false, "Line " + lines.number() + " " + what + ".");
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
      throw broken("holds zero bytes");
    }
    String text = there ? lines.text(codePage) : "";
    if (!there || !lines.isEnded() && !text.equals(END)) {
      throw new NoPair(true, "It ends before its end mark");
    }
    return text;
  }

  private int number(String text) throws NoPair {
    try {
      return Integer.parseInt(text);
    } catch (NumberFormatException noCode) {
      throw broken("is no group code");
    }
  }
}
