package dev.kavrin.core.content.dxf;

import jakarta.annotation.Nullable;
import java.io.BufferedReader;
import java.io.IOException;

/** Group codes and values, one pair after the other. Not for two threads. */
final class DxfPairs {
  private static final int LONGEST_LINE = 1 << 16;

  private final BufferedReader lines;
  private long line;

  DxfPairs(BufferedReader lines) {
    this.lines = lines;
  }

  /** A pair as it stands in the file, its value without space around it. */
  record DxfPair(int code, String value) {}

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

  /** Null behind the end mark. */
  @Nullable
  DxfPair next() throws IOException {
    String code = line();
    String value = code == null ? null : line();
    if (value == null) {
      throw new NoPair(true, "It ends before its end mark");
    }
    int group;
    try {
      group = Integer.parseInt(code.strip());
    } catch (NumberFormatException noCode) {
      throw new NoPair(false, "Line " + (line - 1) + " is no group code.");
    }
    String told = value.strip();
    return group == 0 && told.equals("EOF") ? null : new DxfPair(group, told);
  }

  /** Null at the end; a line without an end is one that was cut. */
  private String line() throws IOException {
    StringBuilder text = new StringBuilder();
    for (int c = lines.read(); c >= 0; c = lines.read()) {
      if (c == '\n') {
        line++;
        return text.toString();
      }
      if (c == 0) {
        throw new NoPair(false, "Line " + (line + 1) + " holds zero bytes.");
      }
      if (text.length() < LONGEST_LINE) {
        text.append((char) c);
      }
    }
    return text.toString().strip().equals("EOF") ? text.toString() : null;
  }
}
