package dev.kavrin.core.content.dxf;

/** How far drawn things reach, and how long their lines are. */
final class LineWork {
  private final double[] low = {
    Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY
  };
  private final double[] high = {
    Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY
  };
  private double length;

  /** Takes one more. */
  void add(DxfEntity entity) {
    switch (entity.type()) {
      case "LINE" -> {
        double[] a = point(entity, 10);
        double[] b = point(entity, 11);
        reach(a);
        reach(b);
        length += distance(a, b);
      }
      case "CIRCLE", "ARC" -> round(entity);
      case "LWPOLYLINE", "POLYLINE" -> polyline(entity);
      case "SPLINE" -> {
        for (double[] point : points(entity)) {
          reach(point);
        }
      }
      case "SOLID", "TRACE", "3DFACE" -> {
        for (int corner = 10; corner <= 13; corner++) {
          if (entity.has(corner)) {
            reach(point(entity, corner));
          }
        }
      }
      case "ELLIPSE" -> {
        double[] centre = point(entity, 10);
        double[] axis = point(entity, 11);
        double reach = Math.sqrt(axis[0] * axis[0] + axis[1] * axis[1]);
        reach(new double[] {centre[0] - reach, centre[1] - reach, centre[2]});
        reach(new double[] {centre[0] + reach, centre[1] + reach, centre[2]});
      }
      case "HATCH", "VIEWPORT" -> {}
      default -> {
        if (entity.has(10)) {
          reach(point(entity, 10));
        }
      }
    }
  }

  private void round(DxfEntity entity) {
    double[] centre = point(entity, 10);
    double radius = entity.number(40, 0);
    double from = entity.type().equals("ARC") ? entity.number(50, 0) : 0;
    double to = entity.type().equals("ARC") ? entity.number(51, 360) : 360;
    double span = ((to - from) % 360 + 360) % 360;
    span = span == 0 ? 360 : span;
    length += Math.toRadians(span) * radius;
    on(centre, radius, from);
    on(centre, radius, from + span);
    for (int quarter = 0; quarter < 360; quarter += 90) {
      if (((quarter - from) % 360 + 360) % 360 <= span) {
        on(centre, radius, quarter);
      }
    }
  }

  private void on(double[] centre, double radius, double degrees) {
    double angle = Math.toRadians(degrees);
    reach(
        new double[] {
          centre[0] + radius * Math.cos(angle), centre[1] + radius * Math.sin(angle), centre[2]
        });
  }

  private void polyline(DxfEntity entity) {
    double[][] points = points(entity);
    for (int i = 0; i < points.length; i++) {
      reach(points[i]);
      length += i == 0 ? 0 : distance(points[i - 1], points[i]);
    }
    if (points.length > 2 && ((int) entity.number(70, 0) & 1) == 1) {
      length += distance(points[points.length - 1], points[0]);
    }
  }

  private static double[][] points(DxfEntity entity) {
    double[] x = entity.numbers(10);
    double[] y = entity.numbers(20);
    double[][] points = new double[Math.min(x.length, y.length)][];
    for (int i = 0; i < points.length; i++) {
      points[i] = new double[] {x[i], y[i], 0};
    }
    return points;
  }

  private static double[] point(DxfEntity entity, int code) {
    return new double[] {
      entity.number(code, 0), entity.number(code + 10, 0), entity.number(code + 20, 0)
    };
  }

  private static double distance(double[] a, double[] b) {
    double sum = 0;
    for (int k = 0; k < 3; k++) {
      sum += (a[k] - b[k]) * (a[k] - b[k]);
    }
    return Math.sqrt(sum);
  }

  private void reach(double[] point) {
    if (Double.isFinite(point[0]) && Double.isFinite(point[1])) {
      for (int k = 0; k < 3; k++) {
        low[k] = Math.min(low[k], point[k]);
        high[k] = Math.max(high[k], point[k]);
      }
    }
  }

  double length() {
    return length;
  }

  /** Null if nothing has a place. */
  dev.kavrin.core.content.Box box() {
    return low[0] > high[0] ? null : new dev.kavrin.core.content.Box(low.clone(), high.clone());
  }
}
