package dev.kavrin.core.plan;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;

/**
 * A backup as a plan's cadence makes it over recorded activity.
 *
 * @param at when it is made
 * @param of what the file held then
 */
record PlannedBackup(Instant at, Activity.Write of, UUID document) {
  /** Of all documents, in order. */
  static List<PlannedBackup> all(Plan plan, Activity activity) {
    List<PlannedBackup> all = new ArrayList<>();
    activity.writes().keySet().forEach(d -> all.addAll(of(plan, activity, d)));
    all.sort(Comparator.comparing(PlannedBackup::at));
    return all;
  }

  /** Of one document, in order. */
  static List<PlannedBackup> of(Plan plan, Activity activity, UUID document) {
    List<Activity.Write> writes = activity.writes().getOrDefault(document, List.of());
    List<PlannedBackup> all = new ArrayList<>();
    if (activity.runs().contains(document)) {
      steps(plan, activity.looks(), document, writes, all);
    } else {
      copies(plan, activity.looks(), document, writes, all);
    }
    return all;
  }

  /** Every so many-th step of a run, or the first after the interval; each write is one step. */
  private static void steps(
      Plan plan,
      Activity.Looks looks,
      UUID document,
      List<Activity.Write> writes,
      List<PlannedBackup> into) {
    int since = 0;
    Instant changed = null;
    for (Activity.Write step : writes) {
      since++;
      changed = changed == null ? step.at() : changed;
      Instant first = changed;
      boolean counted = plan.everySteps() > 0 && since >= plan.everySteps();
      boolean due = plan.dueAfter().filter(d -> !step.at().isBefore(first.plus(d))).isPresent();
      Instant at = looks.from(step.at());
      if ((counted || due) && !at.isAfter(looks.last())) {
        into.add(new PlannedBackup(at, step, document));
        since = 0;
        changed = null;
      }
    }
  }

  /** Every copy of a document, in order. */
  private static void copies(
      Plan plan,
      Activity.Looks looks,
      UUID document,
      List<Activity.Write> writes,
      List<PlannedBackup> into) {
    if (plan.dueAfter().isEmpty()) {
      return;
    }
    Duration after = plan.dueAfter().get();
    Instant changed = null;
    for (int i = 0; i < writes.size(); i++) {
      Activity.Write write = writes.get(i);
      Instant seen = looks.from(write.at());
      Instant next = i + 1 < writes.size() ? looks.from(writes.get(i + 1).at()) : Instant.MAX;
      if (next.equals(seen)) {
        continue;
      }
      Instant wrote = i == 0 ? write.at() : seen;
      changed = changed == null ? wrote : changed;
      Instant due = changed.plus(after);
      Instant calm = wrote.plus(plan.quiet());
      Instant forced = due.plus(plan.hardLimit());
      Instant ready = calm.isAfter(forced) ? forced : calm;
      Instant at = looks.from(latest(seen, due, ready));
      if (at.isBefore(next) && !at.isAfter(looks.last())) {
        into.add(new PlannedBackup(at, write, document));
        changed = null;
      }
    }
  }

  private static Instant latest(Instant a, Instant b, Instant c) {
    Instant ab = a.isAfter(b) ? a : b;
    return ab.isAfter(c) ? ab : c;
  }
}
