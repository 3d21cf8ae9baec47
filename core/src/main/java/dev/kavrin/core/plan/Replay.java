package dev.kavrin.core.plan;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.keep.KeepState;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;

/**
 * What a plan would have meant over recorded activity. Exact where somebody watched: copies as the
 * cadence makes them, drops as the keep rules make them. Hands-off times of the past are not known
 * and left out.
 *
 * @param losses one for each crash, in order
 * @param lost working time lost to crashes that fell into watched time
 * @param copies made
 * @param written bytes written into all recovery folders
 * @param days how much stood at the end of each working day
 * @param peak most bytes that stood at the end of a day, in all recovery folders
 * @param kept states by document that stand in the end
 */
public record Replay(
    List<Loss> losses,
    Duration lost,
    int copies,
    long written,
    List<Day> days,
    long peak,
    Map<UUID, List<KeepState>> kept) {

  /**
   * What a crash would have cost with the newest copy alone.
   *
   * @param work newest work that was copied by then, null if there was no copy
   * @param lost working time since, or since the first write without a copy
   * @param copies that stood then
   * @param watched false if nobody watched; then it is left out of totals
   */
  public record Loss(
      Instant at, @Nullable Instant work, Duration lost, int copies, boolean watched) {}

  /** What stood at the end of a day on which copies were made. */
  public record Day(LocalDate date, int copies, long bytes) {}

  /** What a document has of copies at a moment of the replay. */
  private static final class Shelf {
    private final UUID document;
    private final List<Activity.Write> writes;
    private List<KeepState> standing = new ArrayList<>();
    private Instant last;
    private long born;

    Shelf(UUID document, List<Activity.Write> writes) {
      this.document = document;
      this.writes = writes;
    }
  }

  /** A copy as the cadence makes it. */
  private record Copy(Instant at, Activity.Write of, Shelf shelf) {}

  /**
   * @param places recovery folders that each get a copy
   */
  public static Replay of(Plan plan, Activity activity, int places) {
    List<Shelf> shelves = new ArrayList<>();
    List<Copy> copies = new ArrayList<>();
    activity.writes().forEach((d, w) -> shelves.add(new Shelf(d, w)));
    for (Shelf shelf : shelves) {
      if (activity.runs().contains(shelf.document)) {
        steps(plan, activity.looks(), shelf, copies);
      } else {
        copies(plan, activity.looks(), shelf, copies);
      }
    }
    copies.sort(Comparator.comparing(Copy::at));
    return new Run(plan, activity, places, shelves).over(copies);
  }

  /** Every so many-th step of a run, or the first after the interval; each write is one step. */
  private static void steps(Plan plan, Activity.Looks looks, Shelf shelf, List<Copy> into) {
    int since = 0;
    Instant changed = null;
    for (Activity.Write step : shelf.writes) {
      since++;
      changed = changed == null ? step.at() : changed;
      Instant first = changed;
      boolean counted = plan.everySteps() > 0 && since >= plan.everySteps();
      boolean due = plan.dueAfter().filter(d -> !step.at().isBefore(first.plus(d))).isPresent();
      Instant at = looks.from(step.at());
      if ((counted || due) && !at.isAfter(looks.last())) {
        into.add(new Copy(at, step, shelf));
        since = 0;
        changed = null;
      }
    }
  }

  /** Every copy of a document, in order. */
  private static void copies(Plan plan, Activity.Looks looks, Shelf shelf, List<Copy> into) {
    if (plan.dueAfter().isEmpty()) {
      return;
    }
    Duration after = plan.dueAfter().get();
    List<Activity.Write> writes = shelf.writes;
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
        into.add(new Copy(at, write, shelf));
        changed = null;
      }
    }
  }

  private static Instant latest(Instant a, Instant b, Instant c) {
    Instant ab = a.isAfter(b) ? a : b;
    return ab.isAfter(c) ? ab : c;
  }

  /** One pass over all copies in order of time. */
  private static final class Run {
    private final Plan plan;
    private final Activity activity;
    private final int places;
    private final List<Shelf> shelves;
    private final Map<UUID, Shelf> byDocument = new HashMap<>();
    private final List<Loss> losses = new ArrayList<>();
    private final List<Day> days = new ArrayList<>();
    private long written;
    private int crash;

    Run(Plan plan, Activity activity, int places, List<Shelf> shelves) {
      this.plan = plan;
      this.activity = activity;
      this.places = places;
      this.shelves = shelves;
      shelves.forEach(s -> byDocument.put(s.document, s));
    }

    Replay over(List<Copy> copies) {
      LocalDate day = null;
      for (Copy copy : copies) {
        crashesUntil(copy.at());
        LocalDate today = copy.at().atZone(activity.zone()).toLocalDate();
        if (day != null && !today.equals(day)) {
          endOf(day);
        }
        day = today;
        take(copy);
      }
      crashesUntil(Instant.MAX);
      if (day != null) {
        endOf(day);
      }
      Map<UUID, List<KeepState>> kept = new HashMap<>();
      shelves.forEach(s -> kept.put(s.document, List.copyOf(s.standing)));
      return new Replay(
          List.copyOf(losses),
          losses.stream()
              .filter(Loss::watched)
              .map(Loss::lost)
              .reduce(Duration.ZERO, Duration::plus),
          copies.size(),
          written,
          List.copyOf(days),
          days.stream().mapToLong(Day::bytes).max().orElse(0),
          kept);
    }

    private void take(Copy copy) {
      Shelf shelf = copy.shelf();
      shelf.born++;
      shelf.standing.add(
          new KeepState(
              String.valueOf(shelf.born),
              shelf.born,
              copy.of().at(),
              copy.of().size(),
              true,
              Set.of()));
      shelf.last = copy.at();
      written += copy.of().size() * places;
      if (plan.keep().room() > 0) {
        tidy(shelf);
      }
    }

    /**
     * Drops what the rules no longer kept at the last copy. All but the room limit come to the same
     * whether they are asked after each copy or once a day.
     */
    private void tidy(Shelf shelf) {
      if (shelf.last == null) {
        return;
      }
      Instant now = shelf.last;
      List<Instant> before =
          activity.crashes().stream()
              .filter(c -> c.documents().contains(shelf.document) && !c.noticed().isAfter(now))
              .map(Activity.Crash::noticed)
              .toList();
      KeepDecision decision =
          KeepDecision.of(counts(shelf).rule(now, activity.zone(), before), shelf.standing);
      if (!decision.dropped().isEmpty()) {
        shelf.standing =
            new ArrayList<>(
                shelf.standing.stream().filter(s -> decision.kept().containsKey(s.id())).toList());
      }
    }

    private Counts counts(Shelf shelf) {
      return activity.runs().contains(shelf.document)
          ? Counts.newest(plan.runs().restarts())
          : plan.keep();
    }

    private void endOf(LocalDate day) {
      shelves.forEach(this::tidy);
      long bytes =
          shelves.stream().flatMap(s -> s.standing.stream()).mapToLong(KeepState::bytes).sum();
      days.add(new Day(day, standing(shelves), bytes * places));
    }

    private static int standing(List<Shelf> shelves) {
      return shelves.stream().mapToInt(s -> s.standing.size()).sum();
    }

    private void crashesUntil(Instant moment) {
      for (;
          crash < activity.crashes().size()
              && activity.crashes().get(crash).lastAlive().isBefore(moment);
          crash++) {
        losses.add(loss(activity.crashes().get(crash)));
      }
    }

    /** That of the document which loses most. */
    private Loss loss(Activity.Crash c) {
      List<Shelf> hit = c.documents().stream().map(byDocument::get).filter(s -> s != null).toList();
      hit.forEach(this::tidy);
      return hit.stream()
          .map(s -> loss(s, c))
          .max(Comparator.comparing(Loss::lost))
          .orElseGet(() -> new Loss(c.lastAlive(), null, Duration.ZERO, 0, false));
    }

    private Loss loss(Shelf shelf, Activity.Crash c) {
      Instant work =
          shelf.standing.isEmpty()
              ? null
              : shelf.standing.get(shelf.standing.size() - 1).workTime();
      Instant since =
          work != null ? work : shelf.writes.isEmpty() ? c.lastAlive() : shelf.writes.get(0).at();
      return new Loss(
          c.lastAlive(),
          work,
          activity.worked().between(since, c.lastAlive()),
          shelf.standing.size(),
          activity.isWatched(c));
    }
  }
}
