package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.Items;
import dev.kavrin.core.content.dxf.DxfPairs.DxfPair;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * One drawn thing with its groups, in the order of the file. Source of the codes: the published DXF
 * reference (from memory).
 */
final class DxfEntity {
  /** Finer than that nobody draws, and writers round. */
  private static final double FINEST = 1e6;

  private final String type;
  private final List<DxfPair> groups = new ArrayList<>();

  DxfEntity(String type) {
    this.type = type;
  }

  String type() {
    return type;
  }

  void add(DxfPair group) {
    groups.add(group);
  }

  /** The first value of a code. */
  Optional<String> first(int code) {
    return groups.stream().filter(g -> g.code() == code).map(DxfPair::value).findFirst();
  }

  String layer() {
    return first(8).orElse("0");
  }

  double number(int code, double otherwise) {
    return first(code).map(DxfEntity::parsed).filter(Double::isFinite).orElse(otherwise);
  }

  /** All values of a code, in order. */
  List<Double> numbers(int code) {
    return groups.stream().filter(g -> g.code() == code).map(g -> parsed(g.value())).toList();
  }

  private static double parsed(String value) {
    try {
      return Double.parseDouble(value);
    } catch (NumberFormatException noNumber) {
      return Double.NaN;
    }
  }

  /**
   * What it says, however it was written: without handles and marks, without what is usual anyway,
   * numbers to the millionth, groups by their codes.
   *
   * @param onLayer true if it counts on which layer it is
   */
  String canonical(boolean onLayer) {
    StringBuilder text = new StringBuilder(type);
    groups.stream()
        .filter(g -> says(g) && (onLayer || g.code() != 8))
        .sorted(Comparator.comparingInt(DxfPair::code))
        .forEach(g -> text.append('\n').append(g.code()).append(' ').append(value(g)));
    return text.toString();
  }

  /** The same to be held against others one by one. */
  Items.Item item(boolean onLayer) {
    StringBuilder text = new StringBuilder(type);
    List<Double> numbers = new ArrayList<>();
    groups.stream()
        .filter(g -> says(g) && (onLayer || g.code() != 8))
        .sorted(Comparator.comparingInt(DxfPair::code))
        .forEach(
            g -> {
              double number = isNumber(g.code()) ? parsed(g.value()) : Double.NaN;
              text.append('\n').append(g.code());
              if (Double.isFinite(number)) {
                numbers.add(number);
              } else {
                text.append(' ').append(g.value());
              }
            });
    return new Items.Item(
        text.toString(), numbers.stream().mapToDouble(Double::doubleValue).toArray());
  }

  /** The most digits behind the point of any of its coordinates. */
  int decimals() {
    int most = 0;
    for (DxfPair group : groups) {
      int dot = group.code() >= 10 && group.code() < 40 ? group.value().indexOf('.') : -1;
      most = dot < 0 ? most : Math.max(most, group.value().length() - dot - 1);
    }
    return most;
  }

  private static boolean says(DxfPair group) {
    int code = group.code();
    boolean mark = code == 5 || code == 100 || code == 102 || code == 105 || code == 1005;
    boolean handle = code >= 320 && code <= 369 || code >= 390 && code <= 399;
    return !mark && !handle && !isUsual(group);
  }

  /** What a writer may leave out because every reader takes it for granted. */
  private static boolean isUsual(DxfPair group) {
    return switch (group.code()) {
      case 6 -> group.value().equalsIgnoreCase("BYLAYER");
      case 7 -> group.value().equalsIgnoreCase("STANDARD");
      case 62 -> group.value().equals("256");
      case 370 -> group.value().equals("-1");
      case 41, 48, 230 -> parsed(group.value()) == 1;
      case 8 -> false;
      default -> isNumber(group.code()) && group.code() >= 30 && parsed(group.value()) == 0;
    };
  }

  private static boolean isNumber(int code) {
    return code >= 10 && code <= 79
        || code >= 110 && code <= 149
        || code >= 210 && code <= 289
        || code >= 1010 && code <= 1071;
  }

  private static String value(DxfPair group) {
    double number = isNumber(group.code()) ? parsed(group.value()) : Double.NaN;
    boolean exact = Double.isFinite(number) && Math.abs(number) < 1e12;
    return exact ? String.valueOf(Math.round(number * FINEST)) : group.value();
  }
}
