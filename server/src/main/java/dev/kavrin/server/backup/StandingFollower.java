package dev.kavrin.server.backup;

import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.platform.Events;
import jakarta.annotation.Nullable;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Tells the pages when what no journal records has changed: held, behind, in trouble, awaited. */
@Component
class StandingFollower {
  private final Engine engine;
  private final Events events;
  private Map<UUID, Standing> last = Map.of();

  /** How a project stands, as far as a page shows it and no journal tells. */
  private record Standing(List<String> behind, List<Held> documents) {
    static Standing of(Kept kept) {
      return new Standing(
          kept.folders().all().stream()
              .map(f -> f.root() + kept.folders().behind(f).orElse(""))
              .toList(),
          kept.watch().status().stream().map(Held::of).toList());
    }
  }

  private record Held(UUID id, boolean present, String by, boolean awaited, String problem) {
    static Held of(Watch.Status s) {
      return new Held(s.document(), s.present(), s.heldBy(), s.awaited(), s.problem());
    }
  }

  StandingFollower(Engine engine, Events events) {
    this.engine = engine;
    this.events = events;
  }

  @Scheduled(fixedDelay = 1000)
  void look() {
    Map<UUID, Standing> now = new TreeMap<>();
    engine.projects().forEach(kept -> now.put(kept.project().id(), Standing.of(kept)));
    if (!now.equals(last)) {
      now.forEach((project, standing) -> tell(project, standing, last.get(project)));
      events.changed("standing");
      last = now;
    }
  }

  private void tell(UUID project, Standing now, @Nullable Standing before) {
    for (Held document : now.documents()) {
      if (before == null || !before.documents().contains(document)) {
        events.standing(document.id(), project);
      }
    }
  }
}
