package dev.kavrin.server.notification;

import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;

/**
 * Makes one message of several of a kind. Only of those about the same projects: who may see one of
 * them may see all of it.
 */
final class Gathering {
  private static final int IN_FULL = 5;

  private Gathering() {}

  private record Shared(Kind kind, Set<UUID> projects) {}

  static List<News> of(List<News> all) {
    Map<Shared, List<News>> byKind = new LinkedHashMap<>();
    for (News one : all) {
      byKind
          .computeIfAbsent(
              new Shared(one.kind(), one.about().projects()), shared -> new ArrayList<>())
          .add(one);
    }
    return byKind.values().stream().map(Gathering::gathered).toList();
  }

  private static News gathered(List<News> several) {
    News first = several.get(0);
    if (several.size() == 1) {
      return first;
    }
    boolean oneView = several.stream().allMatch(n -> n.about().view().equals(first.about().view()));
    String words =
        several.stream()
            .limit(IN_FULL)
            .map(n -> n.title() + " " + n.words())
            .collect(Collectors.joining("\n"));
    boolean onePath = several.stream().allMatch(n -> Objects.equals(n.path(), first.path()));
    int more = several.size() - IN_FULL;
    return new News(
        first.kind(),
        new About(
            first.about().projects(),
            oneView ? first.about().view() : "/overview",
            several.stream().flatMap(n -> n.about().documents().stream()).distinct().toList()),
        first.kind().several(several.size()),
        more > 0 ? words + "\nAnd " + more + " more." : words,
        onePath ? first.path() : null);
  }
}
