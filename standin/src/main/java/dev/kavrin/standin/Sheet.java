package dev.kavrin.standin;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * A drawing sheet of a simple drafting program: lines and texts on layers, a picture below them.
 */
public final class Sheet {
  private final String picture;
  private final List<String> entities = new ArrayList<>();

  /**
   * @param picture path of the picture below the drawing, relative to the sheet
   */
  public Sheet(String picture) {
    this.picture = picture;
  }

  public Sheet line(String layer, double x0, double y0, double x1, double y1) {
    entities.add(
        pairs("0", "LINE", "8", layer, "10", mm(x0), "20", mm(y0), "11", mm(x1), "21", mm(y1)));
    return this;
  }

  public Sheet text(String layer, double x, double y, double height, String words) {
    entities.add(
        pairs("0", "TEXT", "8", layer, "10", mm(x), "20", mm(y), "40", mm(height), "1", words));
    return this;
  }

  public Sheet box(String layer, double x, double y, double width, double height) {
    return line(layer, x, y, x + width, y)
        .line(layer, x + width, y, x + width, y + height)
        .line(layer, x + width, y + height, x, y + height)
        .line(layer, x, y + height, x, y);
  }

  private static String mm(double value) {
    return String.format(Locale.ROOT, "%.3f", value);
  }

  private static String pairs(String... codesAndValues) {
    return String.join("\n", codesAndValues) + "\n";
  }

  public byte[] toDxf() {
    String drawing =
        pairs("0", "SECTION", "2", "ENTITIES")
            + String.join("", entities)
            + pairs("0", "ENDSEC", "0", "SECTION", "2", "OBJECTS")
            + pairs("0", "IMAGEDEF", "1", picture, "10", "1024.0", "20", "768.0")
            + pairs("0", "ENDSEC", "0", "EOF");
    return drawing.getBytes(StandardCharsets.ISO_8859_1);
  }
}
