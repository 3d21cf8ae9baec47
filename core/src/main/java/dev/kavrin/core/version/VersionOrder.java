package dev.kavrin.core.version;

import dev.kavrin.core.units.Span;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Puts the states of a document in the order of the work: the strongest evidence sets when; then
 * the numbers of families are applied, strongest first, and what contradicts is shown.
 */
public final class VersionOrder {
  private static final Duration TOLERATED = Duration.ofMinutes(2);
  private static final String UNSURE =
      "only its file time says when, and copying or a wrong clock may have set that";

  private final Function<Instant, String> clock;
  private final Map<String, Placed> placed = new LinkedHashMap<>();
  private final Set<String> unreliable;
  private final Map<String, Bounds> bounds = new HashMap<>();

  /** Between which moments a family puts a state; null where it tells none. */
  private record Bounds(@Nullable Instant lo, @Nullable Instant hi, Set<String> family) {
    boolean hold(Placed other) {
      return !family.contains(other.state())
          && (lo == null || other.at().isAfter(lo))
          && (hi == null || other.at().isBefore(hi));
    }
  }

  private VersionOrder(Set<String> unreliable, Function<Instant, String> clock) {
    this.unreliable = unreliable;
    this.clock = clock;
  }

  /**
   * A state with all that tells when its work was done.
   *
   * @param evidence of all its copies, at least one
   */
  public record Told(String state, List<Evidence> evidence) {}

  /**
   * Where a state stands.
   *
   * @param work when its work was done
   * @param at the moment within it by which states are ordered
   * @param by what that rests on
   * @param contradictions in words
   * @param orderKnown false if nothing tells whether it is older or newer than its neighbours
   */
  public record Placed(
      String state,
      Span work,
      Instant at,
      Evidence.Kind by,
      List<String> contradictions,
      boolean orderKnown) {
    private Placed within(Span other) {
      return new Placed(state, other, at, Evidence.Kind.FAMILY, contradictions, orderKnown);
    }

    private Placed ordered(Instant moment) {
      return new Placed(state, work, moment, by, contradictions, orderKnown);
    }

    private Placed but(String contradiction) {
      List<String> all = new ArrayList<>(contradictions);
      all.add(contradiction);
      return new Placed(state, work, at, by, List.copyOf(all), orderKnown);
    }

    private Placed unknown() {
      return new Placed(state, work, at, by, contradictions, false);
    }
  }

  /**
   * Oldest first; ties by state id.
   *
   * @param families strongest first
   * @param unreliable states whose times tell nothing; only a family can place them
   * @param clock how people read a moment
   */
  public static List<Placed> of(
      List<Told> states,
      List<Family> families,
      Set<String> unreliable,
      Function<Instant, String> clock) {
    VersionOrder order = new VersionOrder(unreliable, clock);
    states.forEach(order::place);
    families.forEach(order::apply);
    order.admit();
    return order.placed.values().stream()
        .sorted(
            Comparator.comparing(Placed::at)
                .thenComparing(p -> p.work().lo())
                .thenComparing(Placed::state))
        .toList();
  }

  private void place(Told told) {
    Evidence strongest = Evidence.strongest(told.evidence()).orElseThrow();
    Placed place =
        new Placed(
            told.state(),
            strongest.span(),
            strongest.span().hi(),
            strongest.kind(),
            List.of(),
            true);
    Evidence weakest =
        told.evidence().stream()
            .filter(e -> e.kind() == Evidence.Kind.MODIFIED)
            .findFirst()
            .orElse(strongest);
    if (strongest.kind() == Evidence.Kind.TIME_IN_NAME
        && apart(strongest.span(), weakest.span()).compareTo(TOLERATED) > 0) {
      place =
          place.but(
              "its name says "
                  + clock.apply(strongest.span().lo())
                  + ", the file system says "
                  + clock.apply(weakest.span().lo())
                  + ": it was copied");
    }
    placed.put(told.state(), place);
  }

  private static Duration apart(Span a, Span b) {
    if (a.hi().isBefore(b.lo())) {
      return Duration.between(a.hi(), b.lo());
    }
    return b.hi().isBefore(a.lo()) ? Duration.between(b.hi(), a.lo()) : Duration.ZERO;
  }

  private long weight(Placed own) {
    return own.by() == Evidence.Kind.MODIFIED && unreliable.contains(own.state())
        ? 0
        : weight(own.by());
  }

  private static long weight(Evidence.Kind kind) {
    return switch (kind) {
      case SEEN_AS_NEW -> 1_000_000;
      case TIME_INSIDE -> 10_000;
      case FAMILY -> 1_000;
      case TIME_IN_NAME -> 100;
      case MODIFIED -> 1;
    };
  }

  private void apply(Family family) {
    List<Family.Member> members =
        family.members().stream().filter(m -> placed.containsKey(m.state())).toList();
    if (members.stream().map(Family.Member::state).distinct().count() < 2) {
      return;
    }
    Family here = new Family(family.name(), members, family.padded());
    Family.Order order =
        here.order(
            new Family.Times() {
              @Override
              public Span of(String state) {
                return placed.get(state).work();
              }

              @Override
              public boolean isReliable(String state) {
                return weight(placed.get(state)) > 0;
              }
            });
    if (order.shape() != Family.Shape.UNKNOWN) {
      arrange(order.order());
    } else {
      members.stream()
          .filter(m -> placed.get(m.state()).by() == Evidence.Kind.MODIFIED)
          .forEach(m -> placed.computeIfPresent(m.state(), (s, p) -> p.unknown()));
    }
  }

  /** Says of which states nothing tells where they belong among those of other sources. */
  private void admit() {
    for (String state : unreliable) {
      if (!bounds.containsKey(state)) {
        placed.computeIfPresent(state, (s, p) -> p.unknown().but(UNSURE));
      }
    }
    bounds.forEach(
        (state, between) -> {
          boolean open =
              placed.values().stream().anyMatch(o -> !o.state().equals(state) && between.hold(o));
          if (open) {
            placed.computeIfPresent(state, (s, p) -> p.unknown());
          }
        });
  }

  /** Members whose own time goes against the order get the time between their neighbours. */
  private void arrange(List<Family.Member> order) {
    List<Placed> row = order.stream().map(m -> placed.get(m.state())).toList();
    Set<String> family = row.stream().map(Placed::state).collect(Collectors.toSet());
    Set<Integer> fits =
        new HashSet<>(
            HeaviestSubsequence.rising(
                row.stream().map(Placed::work).toList(), i -> weight(row.get(i))));
    boolean anchored = fits.stream().anyMatch(i -> weight(row.get(i)) > 0);
    if (anchored) {
      fits.removeIf(i -> weight(row.get(i)) == 0);
    }
    Instant last = null;
    Instant anchor = null;
    for (int i = 0; i < row.size(); i++) {
      Placed own = row.get(i);
      long number = order.get(i).number();
      if (fits.contains(i)) {
        last = later(own.work().hi(), last);
        anchor = last;
        placed.put(own.state(), own.ordered(last));
      } else if (own.by().compareTo(Evidence.Kind.FAMILY) < 0) {
        placed.put(own.state(), own.but(unused(own, number)));
      } else {
        Instant next = next(row, fits, i);
        Instant before = anchor;
        Span between = between(own, last, next);
        last =
            last == null && next != null
                ? next.minusNanos(row.size() - i)
                : later(between.lo(), last);
        placed.put(
            own.state(), own.within(between).ordered(last).but(copied(own, number, between)));
        if (anchored) {
          bounds.put(own.state(), new Bounds(before, next, family));
        }
      }
    }
  }

  private static Instant later(Instant at, @Nullable Instant than) {
    return than == null || at.isAfter(than) ? at : than.plusNanos(1);
  }

  @Nullable
  private static Instant next(List<Placed> row, Set<Integer> fits, int at) {
    for (int i = at + 1; i < row.size(); i++) {
      if (fits.contains(i)) {
        return row.get(i).work().lo();
      }
    }
    return null;
  }

  private static Span between(Placed own, @Nullable Instant last, @Nullable Instant next) {
    Instant lo = last != null ? last : next != null ? next : own.work().lo();
    Instant hi = next != null && !next.isBefore(lo) ? next : lo;
    return new Span(lo, hi);
  }

  private String unused(Placed own, long number) {
    return "its number "
        + number
        + " does not fit "
        + own.by().words()
        + ", "
        + clock.apply(own.work().lo())
        + ": the number is not used";
  }

  private String copied(Placed own, long number, Span between) {
    return "its number "
        + number
        + " puts it at "
        + clock.apply(between.lo())
        + ", "
        + own.by().words()
        + " says "
        + clock.apply(own.work().lo())
        + ": it was copied";
  }
}
