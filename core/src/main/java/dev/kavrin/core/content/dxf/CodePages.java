package dev.kavrin.core.content.dxf;

import java.nio.charset.Charset;
import java.util.List;

/**
 * Code pages as a drawing names them, such as ANSI_1252. Source: the published DXF reference (from
 * memory).
 */
final class CodePages {
  static final Charset USUAL = Charset.forName("windows-1252");

  private CodePages() {}

  /** The usual one where nobody knows the name. */
  static Charset named(String name) {
    String number = name.replaceAll("\\D", "");
    return List.of("windows-" + number, "x-windows-" + number, "ms" + number, name).stream()
        .filter(CodePages::isSupported)
        .findFirst()
        .map(Charset::forName)
        .orElse(USUAL);
  }

  private static boolean isSupported(String name) {
    return name.matches("[A-Za-z0-9][A-Za-z0-9._-]*") && Charset.isSupported(name);
  }
}
