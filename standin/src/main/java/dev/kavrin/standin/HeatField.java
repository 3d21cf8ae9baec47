package dev.kavrin.standin;

import java.util.Arrays;

/**
 * Temperature of a turning disc, by explicit finite differences in polar coordinates. Nobody guards
 * its stability: with too long a time step it runs away, as such schemes do.
 */
final class HeatField {
  private static final double PAD_ARC = Math.PI / 3;
  private static final double TURN_PER_SECOND = 0.6;

  private final HeatSetup setup;
  private double[][] kelvin;

  HeatField(HeatSetup setup) {
    this.setup = setup;
    this.kelvin = new double[setup.rings()][setup.sectors()];
    for (double[] ring : kelvin) {
      Arrays.fill(ring, setup.ambient());
    }
  }

  HeatField(HeatSetup setup, double[][] from) {
    this.setup = setup;
    this.kelvin = from;
  }

  double[][] kelvin() {
    return kelvin;
  }

  /** One step of the run, in several of the scheme's. */
  void advance(long step) {
    double dt = setup.seconds() / setup.substeps();
    for (int sub = 0; sub < setup.substeps(); sub++) {
      double time = (step - 1) * setup.seconds() + sub * dt;
      kelvin = next(dt, time * TURN_PER_SECOND, setup.share(step) * setup.flux());
    }
  }

  private double[][] next(double dt, double turned, double flux) {
    int rings = setup.rings();
    int sectors = setup.sectors();
    double dr = (setup.outer() - setup.inner()) / rings;
    double angle = 2 * Math.PI / sectors;
    double[][] next = new double[rings][sectors];
    for (int i = 0; i < rings; i++) {
      double r = setup.inner() + (i + 0.5) * dr;
      double[] in = kelvin[Math.max(0, i - 1)];
      double[] out = kelvin[Math.min(rings - 1, i + 1)];
      for (int j = 0; j < sectors; j++) {
        double here = kelvin[i][j];
        double radial =
            ((r + dr / 2) * (out[j] - here) - (r - dr / 2) * (here - in[j])) / (r * dr * dr);
        double left = kelvin[i][(j + sectors - 1) % sectors];
        double right = kelvin[i][(j + 1) % sectors];
        double round = (right - 2 * here + left) / (r * r * angle * angle);
        double heat =
            setup.conductivity() * (radial + round)
                + (isUnderPad(j * angle, turned) ? flux : 0)
                - setup.cooling() * (here - setup.ambient());
        next[i][j] = here + dt * heat / setup.capacity();
      }
    }
    return next;
  }

  private static boolean isUnderPad(double at, double turned) {
    double relative = (at - turned) % (2 * Math.PI);
    return (relative + 2 * Math.PI) % (2 * Math.PI) < PAD_ARC;
  }

  double hottest() {
    double hottest = Double.NEGATIVE_INFINITY;
    for (double[] ring : kelvin) {
      for (double value : ring) {
        hottest = Double.isNaN(value) ? Double.NaN : Math.max(hottest, value);
      }
    }
    return hottest;
  }

  /** Radial heat flow in W/m², as a result to look at. */
  double[][] radialFlow() {
    int rings = setup.rings();
    double dr = (setup.outer() - setup.inner()) / rings;
    double[][] flow = new double[rings][setup.sectors()];
    for (int i = 1; i < rings - 1; i++) {
      for (int j = 0; j < setup.sectors(); j++) {
        flow[i][j] = -setup.conductivity() * (kelvin[i + 1][j] - kelvin[i - 1][j]) / (2 * dr);
      }
    }
    return flow;
  }
}
