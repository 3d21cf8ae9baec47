package dev.kavrin.core.compare;

import dev.kavrin.core.content.Part;

/** How alike two parts are in make and place, from the numbers of their inventories. */
enum Likeness {
  MESHES("mesh", "area", "faces", "spread", 0.1),
  LAYERS("layer", "drawn length", "entities", "extent", 0.0205),
  BLOCKS("block", "drawn length", "entities", "extent", 0.0205);

  private static final double OTHER_NAME = 0.02;
  private static final double FAR_AWAY = 0.05;

  private final String kind;
  private final String size;
  private final String count;
  private final String reach;
  private final double limit;

  Likeness(String kind, String size, String count, String reach, double limit) {
    this.kind = kind;
    this.size = size;
    this.count = count;
    this.reach = reach;
    this.limit = limit;
  }

  boolean takes(Part part) {
    return part.kind().equals(kind) && part.readable() && size(part) > 0;
  }

  double size(Part part) {
    return part.measure(size);
  }

  /** Up to where two of a kind may be taken for one. */
  double limit() {
    return limit;
  }

  /** 0 for the same; what is called the same is taken for likelier. */
  double between(Part a, Part b) {
    double extent = Math.max(a.measure("extent"), b.measure("extent"));
    double away = 0;
    for (int k = 0; k < 3; k++) {
      double d =
          a.bounds() == null || b.bounds() == null
              ? 0
              : (a.bounds().min()[k]
                      + a.bounds().max()[k]
                      - b.bounds().min()[k]
                      - b.bounds().max()[k])
                  / 2;
      away += d * d;
    }
    double far = Math.min(1, Math.sqrt(away) / Math.max(extent, 1e-12));
    return (a.label().equals(b.label()) ? 0 : OTHER_NAME)
        + ratio(a, b, size)
        + ratio(a, b, count)
        + ratio(a, b, reach)
        + FAR_AWAY * far;
  }

  private static double ratio(Part a, Part b, String measure) {
    double x = a.measure(measure);
    double y = b.measure(measure);
    return x <= 0 || y <= 0 ? 0 : Math.abs(Math.log(x / y));
  }
}
