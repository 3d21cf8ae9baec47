package dev.kavrin.server.platform;

import jakarta.annotation.Nullable;
import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;

/** Lines of text from a program that is not trusted to end them. */
final class BoundedLines {
  private final InputStream in;
  private final int longest;

  BoundedLines(InputStream in, int longest) {
    this.in = new BufferedInputStream(in, 1 << 16);
    this.longest = longest;
  }

  /**
   * The next line without its end; null if there is none.
   *
   * @throws IOException it is longer than any may be
   */
  @Nullable
  String next() throws IOException {
    ByteArrayOutputStream line = new ByteArrayOutputStream();
    for (int b = in.read(); b != '\n'; b = in.read()) {
      if (b < 0) {
        return null;
      }
      if (line.size() >= longest) {
        throw new IOException("the reader's answer has no end");
      }
      line.write(b);
    }
    return line.toString(StandardCharsets.UTF_8);
  }
}
