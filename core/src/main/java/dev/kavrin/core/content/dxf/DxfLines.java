package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.Lines;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** The straight pieces a drawing is made of; round ones in steps of ten degrees. */
final class DxfLines implements Lines, DxfWalk.Visitor {
  private static final int DEEPEST = 8;
  private static final double STEP = Math.toRadians(10);

  private final List<DxfEntity> sheet = new ArrayList<>();
  private final Map<String, List<DxfEntity>> blocks = new HashMap<>();
  private final Set<String> hidden = new TreeSet<>();

  private DxfLines() {}

  /** Of as much as can be read. */
  static Lines of(SeekableByteChannel in) throws IOException {
    DxfLines lines = new DxfLines();
    try {
      DxfWalk.through(in, lines);
    } catch (DxfPairs.NoPair cut) {
      return lines;
    }
    return lines;
  }

  @Override
  public void record(DxfEntity record) {
    boolean off = record.number(62, 7) < 0 || ((int) record.number(70, 0) & 1) == 1;
    if (record.type().equals("LAYER") && off) {
      record.first(2).ifPresent(hidden::add);
    }
  }

  @Override
  public void drawn(@Nullable String block, DxfEntity entity) {
    (block == null ? sheet : blocks.computeIfAbsent(block, k -> new ArrayList<>())).add(entity);
  }

  @Override
  public void each(Sink sink) {
    sheet.stream()
        .filter(e -> !hidden.contains(e.layer()))
        .forEach(e -> draw(e, Placing.NONE, 0, sink));
  }

  /** Where a block is put: x' = a x − b y + dx, y' = b' x + a' y + dy. */
  private record Placing(double xx, double xy, double yx, double yy, double dx, double dy) {
    static final Placing NONE = new Placing(1, 0, 0, 1, 0, 0);

    Placing within(DxfEntity insert) {
      double angle = Math.toRadians(insert.number(50, 0));
      double sx = insert.number(41, 1);
      double sy = insert.number(42, 1);
      double a = Math.cos(angle) * sx;
      double b = -Math.sin(angle) * sy;
      double c = Math.sin(angle) * sx;
      double d = Math.cos(angle) * sy;
      double x = insert.number(10, 0);
      double y = insert.number(20, 0);
      return new Placing(
          xx * a + xy * c,
          xx * b + xy * d,
          yx * a + yy * c,
          yx * b + yy * d,
          xx * x + xy * y + dx,
          yx * x + yy * y + dy);
    }

    double x(double px, double py) {
      return xx * px + xy * py + dx;
    }

    double y(double px, double py) {
      return yx * px + yy * py + dy;
    }
  }

  private void draw(DxfEntity e, Placing at, int depth, Sink sink) {
    switch (e.type()) {
      case "LINE" ->
          piece(e, at, sink, e.number(10, 0), e.number(20, 0), e.number(11, 0), e.number(21, 0));
      case "CIRCLE" -> round(e, at, sink, 0, 2 * Math.PI);
      case "ARC" -> {
        double from = Math.toRadians(e.number(50, 0));
        double span = Math.toRadians(e.number(51, 360)) - from;
        round(e, at, sink, from, span <= 0 ? span + 2 * Math.PI : span);
      }
      case "LWPOLYLINE", "POLYLINE", "SPLINE" -> chain(e, at, sink);
      case "SOLID", "TRACE", "3DFACE" -> face(e, at, sink);
      case "INSERT" -> {
        if (depth < DEEPEST) {
          Placing within = at.within(e);
          blocks
              .getOrDefault(e.first(2).orElse(""), List.of())
              .forEach(inner -> draw(inner, within, depth + 1, sink));
        }
      }
      default -> {}
    }
  }

  private static void piece(
      DxfEntity e, Placing at, Sink sink, double x1, double y1, double x2, double y2) {
    if (Double.isFinite(x1 + y1 + x2 + y2)) {
      sink.piece(e.layer(), at.x(x1, y1), at.y(x1, y1), at.x(x2, y2), at.y(x2, y2));
    }
  }

  private static void round(DxfEntity e, Placing at, Sink sink, double from, double span) {
    double x = e.number(10, 0);
    double y = e.number(20, 0);
    double r = e.number(40, 0);
    int steps = (int) Math.max(1, Math.ceil(span / STEP));
    for (int i = 0; i < steps; i++) {
      double a = from + span * i / steps;
      double b = from + span * (i + 1) / steps;
      piece(
          e,
          at,
          sink,
          x + r * Math.cos(a),
          y + r * Math.sin(a),
          x + r * Math.cos(b),
          y + r * Math.sin(b));
    }
  }

  private static void chain(DxfEntity e, Placing at, Sink sink) {
    double[] x = e.numbers(10);
    double[] y = e.numbers(20);
    int first = e.type().equals("POLYLINE") ? 1 : 0;
    int count = Math.min(x.length, y.length);
    for (int i = first + 1; i < count; i++) {
      piece(e, at, sink, x[i - 1], y[i - 1], x[i], y[i]);
    }
    if (count - first > 2 && ((int) e.number(70, 0) & 1) == 1) {
      piece(e, at, sink, x[count - 1], y[count - 1], x[first], y[first]);
    }
  }

  private static void face(DxfEntity e, Placing at, Sink sink) {
    int[] corners = e.type().equals("3DFACE") ? new int[] {0, 1, 2, 3} : new int[] {0, 1, 3, 2};
    for (int i = 0; i < 4; i++) {
      int a = corners[i];
      int b = corners[(i + 1) % 4];
      if (e.has(10 + a) && e.has(10 + b)) {
        piece(
            e,
            at,
            sink,
            e.number(10 + a, 0),
            e.number(20 + a, 0),
            e.number(10 + b, 0),
            e.number(20 + b, 0));
      }
    }
  }
}
