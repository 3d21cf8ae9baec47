package dev.kavrin.core.plan;

/**
 * Time lost to copies and to crashes, for each second of work that stays. All in seconds; crashes
 * are taken to come at a constant rate.
 *
 * @param price what one copy holds the person up, at least 0
 * @param between mean working time between crashes, above 0
 */
public record Waste(double price, double between) {

  public Waste {
    if (price < 0 || !(between > 0)) {
      throw new IllegalArgumentException(
          "A copy that takes " + price + " s, a crash every " + between + " s");
    }
  }

  /**
   * Expected time for {@code interval} of work that stays, over it, less one: M(e^((T + d)/M) −
   * 1)/T − 1. Near d/T + T/(2M) while both are small.
   */
  public double at(double interval) {
    return between * Math.expm1((interval + price) / between) / interval - 1;
  }

  /** The interval with the least waste: where its derivative (T/M − 1)e^((T + d)/M) + 1 is 0. */
  public double best() {
    if (price == 0) {
      return 0;
    }
    double t = Math.min(young(), between);
    for (int i = 0; i < 50; i++) {
      double grown = Math.exp((t + price) / between);
      double step = ((t / between - 1) * grown + 1) / (t / (between * between) * grown);
      t = Math.max(t - step, t / 10);
      if (Math.abs(step) < 1e-9 * t) {
        break;
      }
    }
    return t;
  }

  /** √(2dM). Source: J. W. Young, Communications of the ACM 17(9), 1974 (from memory). */
  public double young() {
    return Math.sqrt(2 * price * between);
  }

  /**
   * √(2dM)·[1 + ⅓√(d/2M) + (1/9)(d/2M)] − d below d = 2M, else M. Source: J. T. Daly, Future
   * Generation Computer Systems 22(3), 2006 (from memory).
   */
  public double daly() {
    double x = price / (2 * between);
    return x >= 1 ? between : young() * (1 + Math.sqrt(x) / 3 + x / 9) - price;
  }

  /** Expected work lost to a crash that falls within an interval: M − T/(e^(T/M) − 1). */
  public double lostPerCrash(double interval) {
    return between - interval / Math.expm1(interval / between);
  }

  /** The shortest and longest interval whose waste is at most that much above the least. */
  double[] within(double share) {
    double best = best();
    if (best == 0) {
      return new double[] {0, 0};
    }
    double limit = at(best) * (1 + share);
    return new double[] {edge(best, best / 1000, limit), edge(best, best * 1000, limit)};
  }

  private double edge(double inside, double outside, double limit) {
    double in = inside;
    double out = outside;
    for (int i = 0; i < 80; i++) {
      double middle = Math.sqrt(in * out);
      if (at(middle) <= limit) {
        in = middle;
      } else {
        out = middle;
      }
    }
    return in;
  }
}
