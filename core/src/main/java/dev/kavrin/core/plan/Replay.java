package dev.kavrin.core.plan;

import dev.kavrin.core.keep.BinLimit;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.keep.RoomShares;
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
import java.util.function.Predicate;

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
 * @param peak most bytes that stood at the end of a day, in all backup folders and their bins
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

  /**
   * What stood at the end of a day on which copies were made.
   *
   * @param bytes of the copies kept and of those in the bin
   */
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

  /**
   * @param places recovery folders that each get a copy
   */
  public static Replay of(Plan plan, Activity activity, int places) {
    List<Shelf> shelves = new ArrayList<>();
    activity.writes().forEach((d, w) -> shelves.add(new Shelf(d, w)));
    return new Run(plan, activity, places, shelves).over(PlannedBackup.all(plan, activity));
  }

  /**
   * The backups of one document, as what survives of it.
   *
   * @param takes how long each takes
   */
  public static List<PastLoss.Survivor> backups(
      Plan plan, Activity activity, UUID document, Duration takes) {
    return PlannedBackup.of(plan, activity, document).stream()
        .map(c -> new PastLoss.Survivor(c.of().at(), c.at().plus(takes), null))
        .toList();
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
    private final SimulatedBin bin;
    private long written;
    private int crash;

    Run(Plan plan, Activity activity, int places, List<Shelf> shelves) {
      this.plan = plan;
      this.bin = new SimulatedBin(plan.holdsRoom());
      this.activity = activity;
      this.places = places;
      this.shelves = shelves;
      shelves.forEach(s -> byDocument.put(s.document, s));
    }

    Replay over(List<PlannedBackup> copies) {
      LocalDate day = null;
      for (PlannedBackup copy : copies) {
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

    private void take(PlannedBackup copy) {
      Shelf shelf = byDocument.get(copy.document());
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
      if (plan.holdsRoom()) {
        tidy(shelf);
        fit(copy.at());
      }
    }

    /** Drops, over all documents, what the project's room does not hold. */
    private void fit(Instant now) {
      long room = BinLimit.keptWithin(plan.projectRoom());
      if (plan.projectRoom() == 0 || bytes() <= room) {
        return;
      }
      List<Set<String>> going =
          RoomShares.beyond(shelves.stream().map(s -> RoomShares.allOf(s.standing)).toList(), room);
      for (int i = 0; i < going.size(); i++) {
        Set<String> gone = going.get(i);
        drop(shelves.get(i), s -> gone.contains(s.id()), now);
      }
    }

    private long bytes() {
      return shelves.stream().flatMap(s -> s.standing.stream()).mapToLong(KeepState::bytes).sum();
    }

    private void drop(Shelf shelf, Predicate<KeepState> which, Instant now) {
      shelf.standing.stream().filter(which).forEach(s -> bin.take(now, s.bytes()));
      shelf.standing = new ArrayList<>(shelf.standing.stream().filter(which.negate()).toList());
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
        drop(shelf, s -> !decision.kept().containsKey(s.id()), now);
      }
    }

    private Counts counts(Shelf shelf) {
      return activity.runs().contains(shelf.document)
          ? Counts.newest(plan.runs().restarts())
          : plan.keep();
    }

    private void endOf(LocalDate day) {
      shelves.forEach(this::tidy);
      long bytes = bytes();
      Instant end = day.plusDays(1).atStartOfDay(activity.zone()).toInstant();
      days.add(new Day(day, standing(shelves), (bytes + bin.at(end, bytes)) * places));
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
