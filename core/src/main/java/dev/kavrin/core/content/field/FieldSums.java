package dev.kavrin.core.content.field;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Measure;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;

/** Adds up the numbers of a field while they go by, in whatever width they were written. */
public final class FieldSums {
  /** Common practice, no source: beyond that no quantity in SI units makes sense. */
  private static final double BEYOND_ALL = 1e30;

  private static final int MOST_HELD = 4_000_000;

  private final ContentHash hash = new ContentHash();
  private final ByteBuffer bytes = ByteBuffer.allocate(8);
  private double[] held;
  private long numbers;
  private long notNumbers;
  private double min = Double.POSITIVE_INFINITY;
  private double max = Double.NEGATIVE_INFINITY;
  private double sum;

  /**
   * @param holding true to hold the numbers themselves, up to four million
   */
  public FieldSums(boolean holding) {
    held = holding ? new double[64] : null;
  }

  public void number(double value) {
    hash.add(bytes.putDouble(0, value == 0 ? 0.0 : value).array());
    long place = numbers + notNumbers;
    if (held != null && place < MOST_HELD) {
      held = place == held.length ? Arrays.copyOf(held, held.length * 2) : held;
      held[(int) place] = value;
    }
    if (Double.isFinite(value)) {
      numbers++;
      min = Math.min(min, value);
      max = Math.max(max, value);
      sum += value;
    } else {
      notNumbers++;
    }
  }

  /** Something that is no number and is not meant as one. */
  public void words(String text) {
    hash.add(text.getBytes(StandardCharsets.UTF_8));
  }

  /** The numbers, if they were held and are not too many. */
  public double[] held() {
    long count = numbers + notNumbers;
    return held == null || count > MOST_HELD ? new double[0] : Arrays.copyOf(held, (int) count);
  }

  public long count() {
    return numbers + notNumbers;
  }

  public long notNumbers() {
    return notNumbers;
  }

  /** The largest number in it, whatever its sign. */
  public double largest() {
    return numbers == 0 ? 0 : Math.max(Math.abs(min), Math.abs(max));
  }

  /** True if it reaches what nothing real does. */
  public boolean runsAway() {
    return largest() > BEYOND_ALL;
  }

  public String exact() {
    return hash.id().digest();
  }

  /**
   * By name, in a fixed order.
   *
   * @param count what the field should hold
   */
  public Map<String, Measure> measures(long count, String unit) {
    Map<String, Measure> measures = new LinkedHashMap<>();
    measures.put("count", new Measure(count, ""));
    if (numbers > 0) {
      measures.put("min", new Measure(min, unit));
      measures.put("max", new Measure(max, unit));
      measures.put("mean", new Measure(sum / numbers, unit));
    }
    return measures;
  }
}
