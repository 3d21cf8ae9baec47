package dev.kavrin.core.content;

import jakarta.annotation.Nullable;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.charset.Charset;

/** Lines of text of bounded length. Not for two threads. */
public final class TextLines {
  private static final int LONGEST = 4_000_000;

  private final Reader in;
  private final StringBuilder line = new StringBuilder();
  private long number;
  private boolean afterReturn;

  public TextLines(InputStream in, Charset charset) {
    this.in = new BufferedReader(new InputStreamReader(in, charset), 1 << 16);
  }

  /**
   * The next line without its end; null behind the last.
   *
   * @throws TooLargeException it has more than four million characters
   */
  @Nullable
  public String next() throws IOException {
    line.setLength(0);
    int c = in.read();
    if (afterReturn && c == '\n') {
      c = in.read();
    }
    afterReturn = false;
    if (c < 0) {
      return null;
    }
    number++;
    for (; c >= 0 && c != '\n' && c != '\r'; c = in.read()) {
      if (line.length() == LONGEST) {
        throw new TooLargeException(
            "line " + number + " has more than " + LONGEST + " characters.");
      }
      line.append((char) c);
    }
    afterReturn = c == '\r';
    return line.toString();
  }
}
