package dev.kavrin.server.health;

import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.BackupReaders;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.boot.health.contributor.Status;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * What fails, seen from outside: each from what is known already, so that asking waits neither for
 * a disk nor for the database.
 */
@Configuration(proxyBeanMethods = false)
class HealthIndicators {
  /** Works, but not all of it; answered with 200. */
  static final Status IMPAIRED = new Status("IMPAIRED");

  private static final Duration LATE = Duration.ofSeconds(15);

  /** Whether everybody is sent to look, and what fails again and again. */
  @Bean
  HealthIndicator watch(Engine engine, InstantSource clock) {
    return () -> {
      Health.Builder health = isLate(engine.lastRound(), clock) ? Health.down() : Health.up();
      if (!engine.failing().isEmpty()) {
        health.status(isLate(engine.lastRound(), clock) ? Status.DOWN : IMPAIRED);
        health.withDetail("failing", engine.failing());
      }
      return health.withDetail("projects", engine.projects().size()).build();
    };
  }

  /** Whether the records take in what happens. */
  @Bean
  HealthIndicator database(JournalFollower follower, InstantSource clock) {
    return () ->
        (isLate(follower.lastWell(), clock) ? Health.down() : Health.up())
            .withDetail("lastWell", follower.lastWell().toString())
            .build();
  }

  /** Each folder with what is wrong there. */
  @Bean
  HealthIndicator folders(Engine engine) {
    return () -> {
      Map<String, String> all = new TreeMap<>();
      for (BackupFolder folder : engine.folders()) {
        all.put(folder.root().toString(), words(engine, folder.root()));
      }
      for (Kept kept : engine.projects()) {
        Path work = Path.of(kept.project().folder());
        all.put(work.toString(), words(engine, work));
        kept.folders().all().stream()
            .filter(f -> kept.folders().behind(f).isPresent())
            .forEach(
                f -> all.merge(f.root().toString(), kept.folders().behind(f).get(), (a, b) -> b));
      }
      boolean well = all.values().stream().allMatch("well"::equals);
      return (well ? Health.up() : Health.status(IMPAIRED)).withDetails(all).build();
    };
  }

  private static String words(Engine engine, Path folder) {
    return engine.answers(folder) ? "well" : "not answering";
  }

  /** Whether files can be looked into. */
  @Bean
  HealthIndicator reader(BackupReaders readers) {
    return () -> {
      String trouble = readers.trouble();
      return trouble == null
          ? Health.up().build()
          : Health.status(IMPAIRED).withDetail("lastTrouble", trouble).build();
    };
  }

  private static boolean isLate(Instant last, InstantSource clock) {
    return Duration.between(last, clock.instant()).compareTo(LATE) > 0;
  }
}
