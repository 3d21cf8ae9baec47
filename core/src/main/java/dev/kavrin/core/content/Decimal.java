package dev.kavrin.core.content;

import java.nio.charset.StandardCharsets;

/**
 * Reads decimal numbers. Up to 15 digits and powers of ten up to 22 are exact in a double, so that
 * one division rounds correctly; all others are left to the platform. Source: W. D. Clinger, "How
 * to read floating point numbers accurately", PLDI 1990 (from memory).
 */
public final class Decimal {
  private static final int EXACT_DIGITS = 15;
  private static final double[] TENS = {
    1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15, 1e16, 1e17,
    1e18, 1e19, 1e20, 1e21, 1e22
  };

  private Decimal() {}

  /** Not-a-number for what is none. */
  public static double parse(String text) {
    byte[] bytes = text.getBytes(StandardCharsets.ISO_8859_1);
    return parse(bytes, 0, bytes.length);
  }

  /** The same of ASCII characters from one place up to another. */
  public static double parse(byte[] text, int from, int to) {
    long mantissa = 0;
    int digits = 0;
    int behind = -1;
    boolean sign = from < to && (text[from] == '-' || text[from] == '+');
    int start = sign ? from + 1 : from;
    for (int i = start; i < to; i++) {
      byte c = text[i];
      if (c >= '0' && c <= '9') {
        mantissa = mantissa * 10 + c - '0';
        digits += mantissa == 0 ? 0 : 1;
        behind += behind >= 0 ? 1 : 0;
        if (digits > EXACT_DIGITS) {
          return slow(text, from, to);
        }
      } else if (c == '.' && behind < 0) {
        behind = 0;
      } else {
        return slow(text, from, to);
      }
    }
    if (to - start <= (behind >= 0 ? 1 : 0) || behind >= TENS.length) {
      return slow(text, from, to);
    }
    double value = behind > 0 ? mantissa / TENS[behind] : mantissa;
    return text[from] == '-' ? -value : value;
  }

  private static double slow(byte[] text, int from, int to) {
    try {
      return Double.parseDouble(new String(text, from, to - from, StandardCharsets.ISO_8859_1));
    } catch (NumberFormatException noNumber) {
      return Double.NaN;
    }
  }
}
