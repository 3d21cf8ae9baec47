package dev.kavrin.core.content.dxf;

import com.dynatrace.hash4j.hashing.HashStream128;
import com.dynatrace.hash4j.hashing.HashValue128;
import com.dynatrace.hash4j.hashing.Hashing;
import dev.kavrin.core.content.Decimal;
import dev.kavrin.core.content.Items;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * One drawn thing with its groups, in the order of the file. Source of the codes: the published DXF
 * reference (from memory).
 */
final class DxfEntity {
  /** Finer than that nobody draws, and writers round. */
  private static final double FINEST = 1e6;

  private static final int LAYER = 8;

  private final String type;
  private int[] codes = new int[12];
  private String[] values = new String[12];

  /** What the values come to, not-a-number where they are words. */
  private double[] numbers = new double[12];

  private int count;

  DxfEntity(String type) {
    this.type = type;
  }

  String type() {
    return type;
  }

  void add(int code, String value) {
    if (count == codes.length) {
      codes = Arrays.copyOf(codes, count * 2);
      values = Arrays.copyOf(values, count * 2);
      numbers = Arrays.copyOf(numbers, count * 2);
    }
    codes[count] = code;
    values[count] = value;
    numbers[count] = isNumber(code) ? Decimal.parse(value) : Double.NaN;
    count++;
  }

  private int index(int code) {
    for (int i = 0; i < count; i++) {
      if (codes[i] == code) {
        return i;
      }
    }
    return -1;
  }

  boolean has(int code) {
    return index(code) >= 0;
  }

  /** The first value of a code. */
  Optional<String> first(int code) {
    int at = index(code);
    return at < 0 ? Optional.empty() : Optional.of(values[at]);
  }

  String layer() {
    int at = index(LAYER);
    return at < 0 ? "0" : values[at];
  }

  double number(int code, double otherwise) {
    int at = index(code);
    return at < 0 || !Double.isFinite(numbers[at]) ? otherwise : numbers[at];
  }

  /** All values of a code, in order. */
  double[] numbers(int code) {
    double[] all = new double[count];
    int found = 0;
    for (int i = 0; i < count; i++) {
      if (codes[i] == code) {
        all[found++] = numbers[i];
      }
    }
    return Arrays.copyOf(all, found);
  }

  /**
   * What it says, however it was written: without handles and marks, without what is usual anyway,
   * numbers to the millionth, groups by their codes.
   *
   * @param onLayer true if it counts on which layer it is
   */
  HashValue128 canonical(boolean onLayer) {
    HashStream128 hash = Hashing.xxh3_128().hashStream();
    hash.putString(type);
    for (int i : order()) {
      if (says(i) && (onLayer || codes[i] != LAYER)) {
        hash.putInt(codes[i]);
        if (Double.isFinite(numbers[i]) && Math.abs(numbers[i]) < 1e12) {
          hash.putLong(Math.round(numbers[i] * FINEST));
        } else {
          hash.putString(values[i]);
        }
      }
    }
    return hash.get();
  }

  /** The same to be held against others one by one. */
  Items.Item item(boolean onLayer) {
    StringBuilder text = new StringBuilder(type);
    List<Double> told = new ArrayList<>();
    for (int i : order()) {
      if (says(i) && (onLayer || codes[i] != LAYER)) {
        text.append('\n').append(codes[i]);
        if (Double.isFinite(numbers[i])) {
          told.add(numbers[i]);
        } else {
          text.append(' ').append(values[i]);
        }
      }
    }
    return new Items.Item(
        text.toString(), told.stream().mapToDouble(Double::doubleValue).toArray());
  }

  /** Places of the groups by their codes, those of one code as they stand. */
  private int[] order() {
    long[] keys = new long[count];
    for (int i = 0; i < count; i++) {
      keys[i] = (long) codes[i] << Integer.SIZE | i;
    }
    Arrays.sort(keys);
    int[] order = new int[count];
    for (int i = 0; i < count; i++) {
      order[i] = (int) keys[i];
    }
    return order;
  }

  /** The most digits behind the point of any of its coordinates. */
  int decimals() {
    int most = 0;
    for (int i = 0; i < count; i++) {
      int dot = codes[i] >= 10 && codes[i] < 40 ? values[i].indexOf('.') : -1;
      most = dot < 0 ? most : Math.max(most, values[i].length() - dot - 1);
    }
    return most;
  }

  private boolean says(int at) {
    int code = codes[at];
    boolean mark = code == 5 || code == 100 || code == 102 || code == 105 || code == 1005;
    boolean handle = code >= 320 && code <= 369 || code >= 390 && code <= 399;
    return !mark && !handle && !isUsual(at);
  }

  /** What a writer may leave out because every reader takes it for granted. */
  private boolean isUsual(int at) {
    return switch (codes[at]) {
      case 6 -> values[at].equalsIgnoreCase("BYLAYER");
      case 7 -> values[at].equalsIgnoreCase("STANDARD");
      case 62 -> numbers[at] == 256;
      case 370 -> values[at].equals("-1");
      case 41, 48, 230 -> numbers[at] == 1;
      default -> codes[at] >= 30 && numbers[at] == 0;
    };
  }

  private static boolean isNumber(int code) {
    return code >= 10 && code <= 79
        || code >= 110 && code <= 149
        || code >= 210 && code <= 289
        || code >= 1010 && code <= 1071;
  }
}
