package dev.kavrin.server.parts;

import dev.kavrin.core.compare.PartHistory;
import dev.kavrin.core.compare.PartLife;
import dev.kavrin.core.compare.PartLife.Form;
import dev.kavrin.core.content.Measure;
import io.swagger.v3.oas.annotations.media.Schema;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** How the measures of a field or a setting went from state to state. */
final class Courses {
  private static final Map<String, List<String>> FOLLOWED =
      Map.of("field", List.of("max", "mean", "min"), "setting", List.of("value"));

  private Courses() {}

  /**
   * One measure.
   *
   * @param values by state, null where the part is not in it
   */
  @Schema(name = "SeriesView")
  record Series(String name, String unit, List<Double> values) {}

  /** Those that changed at all; none of a part of another kind. */
  static List<Series> of(PartLife life, PartHistory history) {
    List<Series> series = new ArrayList<>();
    List<Form> forms = life.forms();
    for (String name : FOLLOWED.getOrDefault(life.kind(), List.of())) {
      Double[] values = new Double[history.sightings().size()];
      for (Form form : forms) {
        Measure measure = form.part().measures().get(name);
        if (measure != null) {
          Arrays.fill(values, form.from(), form.to() + 1, measure.value());
        }
      }
      if (life.last().measures().containsKey(name)
          && Arrays.stream(values).filter(Objects::nonNull).distinct().count() > 1) {
        series.add(
            new Series(
                name,
                life.last().measures().get(name).unit(),
                Collections.unmodifiableList(Arrays.asList(values))));
      }
    }
    return series;
  }
}
