package dev.kavrin.core.picture;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.DrawingReader;
import dev.kavrin.core.content.FieldReader;
import dev.kavrin.core.content.Slice;
import dev.kavrin.core.health.Readers;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What a drawing or a field shows, to be drawn elsewhere.
 *
 * @param layers line work, empty if it is no drawing
 * @param all false if there is more line work than is told
 * @param grid numbers on a plane, null if it is no field
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Plane(List<Layer> layers, boolean all, @Nullable Slice grid) {
  /** More pieces than that are not told. */
  static final int MOST_PIECES = 200_000;

  private static final int MOST_CELLS = 256;

  /**
   * The straight pieces of one layer.
   *
   * @param pieces x and y of both ends, four numbers each, in the drawing's own unit, y upwards
   */
  public record Layer(String name, double[] pieces) {}

  /**
   * Reads it.
   *
   * @param name proper name; its ending chooses the reader
   * @throws IOException the device failed
   */
  public static Plane of(SeekableByteChannel in, String name) throws IOException {
    ContentReader reader = Readers.of(in, name).orElse(null);
    if (reader instanceof DrawingReader drawn) {
      return outline(drawn, in);
    }
    Slice slice = reader instanceof FieldReader fields ? fields.slice(in).orElse(null) : null;
    return new Plane(List.of(), true, slice == null ? null : reduced(slice));
  }

  private static Plane outline(DrawingReader reader, SeekableByteChannel in) throws IOException {
    Map<String, List<double[]>> byLayer = new LinkedHashMap<>();
    int[] count = {0};
    reader
        .lines(in)
        .each(
            (layer, x1, y1, x2, y2) -> {
              if (count[0]++ < MOST_PIECES) {
                byLayer
                    .computeIfAbsent(layer, k -> new ArrayList<>())
                    .add(new double[] {x1, y1, x2, y2});
              }
            });
    return new Plane(
        byLayer.entrySet().stream().map(e -> new Layer(e.getKey(), flat(e.getValue()))).toList(),
        count[0] <= MOST_PIECES,
        null);
  }

  private static double[] flat(List<double[]> pieces) {
    double[] all = new double[pieces.size() * 4];
    for (int i = 0; i < pieces.size(); i++) {
      System.arraycopy(pieces.get(i), 0, all, i * 4, 4);
    }
    return all;
  }

  /** Every n-th number, so that no side is longer than can be told apart on a screen. */
  private static Slice reduced(Slice slice) {
    int down = (slice.rows() + MOST_CELLS - 1) / MOST_CELLS;
    int across = (slice.columns() + MOST_CELLS - 1) / MOST_CELLS;
    int rows = (slice.rows() + down - 1) / down;
    int columns = (slice.columns() + across - 1) / across;
    double[] values = new double[rows * columns];
    for (int r = 0; r < rows; r++) {
      for (int c = 0; c < columns; c++) {
        values[r * columns + c] = slice.values()[r * down * slice.columns() + c * across];
      }
    }
    return new Slice(slice.name(), slice.unit(), rows, columns, values);
  }
}
