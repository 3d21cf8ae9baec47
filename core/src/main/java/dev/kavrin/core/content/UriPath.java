package dev.kavrin.core.content;

import java.nio.charset.StandardCharsets;

/** Paths as they stand in URIs. Source: RFC 3986, sections 2.1 and 3.3. */
public final class UriPath {
  private static final String PLAIN = "-._~!$&'()*+,;=@/";

  private UriPath() {}

  /** A path with forward slashes, with everything escaped that may not stand in one. */
  public static String of(String path) {
    StringBuilder uri = new StringBuilder();
    for (byte b : path.getBytes(StandardCharsets.UTF_8)) {
      char c = (char) (b & 0xff);
      boolean plain = c < 128 && Character.isLetterOrDigit(c) || PLAIN.indexOf(c) >= 0;
      uri.append(plain ? String.valueOf(c) : String.format("%%%02X", (int) c));
    }
    boolean looksLikeScheme = path.matches("[A-Za-z][A-Za-z0-9+.-]*:.*");
    return looksLikeScheme ? "./" + uri : uri.toString();
  }
}
