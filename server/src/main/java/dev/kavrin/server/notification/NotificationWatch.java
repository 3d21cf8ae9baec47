package dev.kavrin.server.notification;

import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import java.time.InstantSource;
import java.util.Collection;
import java.util.List;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Notices what people should be told, once for each time it begins. */
@Component
class NotificationWatch {
  private final Engine engine;
  private final List<NewsSource> sources;
  private final Notifier notifier;
  private final InstantSource clock;
  private final Round.Standing standing = new Round.Standing();

  NotificationWatch(
      Engine engine, List<NewsSource> sources, Notifier notifier, InstantSource clock) {
    this.engine = engine;
    this.sources = sources;
    this.notifier = notifier;
    this.clock = clock;
  }

  @Scheduled(fixedDelay = 2000, initialDelay = 2000)
  void look() {
    Round round = new Round(clock.instant(), standing);
    Collection<Kept> projects = engine.projects();
    sources.forEach(source -> source.look(projects, round));
    round.end().forEach(notifier::tell);
  }
}
