package dev.kavrin.core.content.dxf;

/**
 * Reads decimal numbers. Up to 15 digits and powers of ten up to 22 are exact in a double, so that
 * one division rounds correctly; all others are left to the platform. Source: W. D. Clinger, "How
 * to read floating point numbers accurately", PLDI 1990 (from memory).
 */
final class Decimal {
  private static final int EXACT_DIGITS = 15;
  private static final double[] TENS = {
    1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15, 1e16, 1e17,
    1e18, 1e19, 1e20, 1e21, 1e22
  };

  private Decimal() {}

  /** Not-a-number for what is none. */
  static double parse(String text) {
    long mantissa = 0;
    int digits = 0;
    int behind = -1;
    int start = !text.isEmpty() && (text.charAt(0) == '-' || text.charAt(0) == '+') ? 1 : 0;
    for (int i = start; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c >= '0' && c <= '9') {
        mantissa = mantissa * 10 + c - '0';
        digits += mantissa == 0 ? 0 : 1;
        behind += behind >= 0 ? 1 : 0;
        if (digits > EXACT_DIGITS) {
          return slow(text);
        }
      } else if (c == '.' && behind < 0) {
        behind = 0;
      } else {
        return slow(text);
      }
    }
    if (text.length() - start <= (behind >= 0 ? 1 : 0) || behind >= TENS.length) {
      return slow(text);
    }
    double value = behind > 0 ? mantissa / TENS[behind] : mantissa;
    return text.charAt(0) == '-' ? -value : value;
  }

  private static double slow(String text) {
    try {
      return Double.parseDouble(text);
    } catch (NumberFormatException noNumber) {
      return Double.NaN;
    }
  }
}
