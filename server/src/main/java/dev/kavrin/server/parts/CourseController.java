package dev.kavrin.server.parts;

import dev.kavrin.core.compare.PartHistory;
import dev.kavrin.core.compare.PartHistory.Sighting;
import dev.kavrin.core.compare.PartLife;
import dev.kavrin.server.parts.Courses.Series;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How the numbers of a run went. */
@RestController
class CourseController {
  /** More points than that cannot be told apart on a screen. */
  private static final int MOST_POINTS = 1_000;

  private final PartHistories histories;

  CourseController(PartHistories histories) {
    this.histories = histories;
  }

  record FieldName(int id, String label) {}

  /**
   * @param fields whose course can be asked for
   * @param shown which of them this is, −1 if there is none
   * @param work when the steps were written, oldest first
   * @param series values at those
   */
  record CourseView(List<FieldName> fields, int shown, List<Instant> work, List<Series> series) {}

  /**
   * The course of one field over all steps.
   *
   * @param field its id; left out for the first, or one that is called a residual
   */
  @GetMapping("/api/documents/{id}/course")
  CourseView course(@PathVariable UUID id, @RequestParam(required = false) Integer field) {
    PartHistory history = histories.of(id);
    Map<PartLife, List<Series>> courses = new LinkedHashMap<>();
    for (PartLife life : history.lives()) {
      List<Series> series = life.kind().equals("field") ? Courses.of(life, history) : List.of();
      if (!series.isEmpty()) {
        courses.put(life, series);
      }
    }
    List<PartLife> fields = List.copyOf(courses.keySet());
    PartLife shown =
        fields.stream()
            .filter(l -> field == null ? l.label().contains("residual") : l.number() == field)
            .findFirst()
            .orElse(fields.isEmpty() ? null : fields.get(0));
    List<Instant> work = history.sightings().stream().map(Sighting::work).toList();
    int step = Math.max(1, (work.size() + MOST_POINTS - 1) / MOST_POINTS);
    return new CourseView(
        fields.stream().map(l -> new FieldName(l.number(), l.label())).toList(),
        shown == null ? -1 : shown.number(),
        everyLast(work, step),
        shown == null
            ? List.of()
            : courses.get(shown).stream().map(s -> thinned(s, step)).toList());
  }

  private static <T> List<T> everyLast(List<T> all, int step) {
    List<T> some = new ArrayList<>();
    for (int from = 0; from < all.size(); from += step) {
      some.add(all.get(Math.min(all.size(), from + step) - 1));
    }
    return some;
  }

  /** So that no peak is lost. */
  private static Series thinned(Series series, int step) {
    List<Double> some = new ArrayList<>();
    for (int from = 0; from < series.values().size(); from += step) {
      List<Double> there =
          series.values().subList(from, Math.min(series.values().size(), from + step)).stream()
              .filter(Objects::nonNull)
              .toList();
      if (there.isEmpty()) {
        some.add(null);
      } else {
        some.add(
            switch (series.name()) {
              case "max" -> Collections.max(there);
              case "min" -> Collections.min(there);
              default -> there.get(there.size() - 1);
            });
      }
    }
    return new Series(series.name(), series.unit(), some);
  }
}
