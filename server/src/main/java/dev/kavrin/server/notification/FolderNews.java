package dev.kavrin.server.notification;

import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.plan.FreeHistory;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import dev.kavrin.server.room.FreeRoom;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Folders that are away, drives that fill up, and what fails again and again. */
@Component
class FolderNews implements NewsSource {
  /** A failure that passes by itself is none of anybody's business. */
  private static final Duration FAILS_FOR_GOOD = Duration.ofMinutes(1);

  private final Engine engine;
  private final FreeRoom room;

  FolderNews(Engine engine, FreeRoom room) {
    this.engine = engine;
    this.room = room;
  }

  @Override
  public void look(Collection<Kept> projects, Round round) {
    projects.forEach(kept -> away(kept, projects, round));
    room.filling().forEach((folder, filling) -> fills(folder, filling, round));
    for (String failing : engine.failing()) {
      if (round.begins("fails " + failing, FAILS_FOR_GOOD)) {
        round.tell(
            new News(
                Kind.FAILING,
                About.machine("/folders"),
                "Something fails again and again",
                failing + ". Nothing was lost by that; Kavrin goes on trying."));
      }
    }
  }

  private static void away(Kept kept, Collection<Kept> projects, Round round) {
    for (BackupFolder folder : kept.folders().all()) {
      try {
        folder.requireHere();
      } catch (IOException away) {
        if (round.begins("away " + folder.root())) {
          round.tell(
              new News(
                  Kind.FOLDER_AWAY,
                  new About(servedBy(folder, projects), "/folders", List.of()),
                  "A backup folder is away",
                  folder.root() + " takes no copies until it is back; then it is caught up."));
        }
      }
    }
  }

  private static Set<UUID> servedBy(BackupFolder folder, Collection<Kept> projects) {
    return projects.stream()
        .filter(k -> k.folders().all().stream().anyMatch(f -> f.root().equals(folder.root())))
        .map(k -> k.project().id())
        .collect(Collectors.toSet());
  }

  /** The work's own drive as well: a program that finds it full cannot save. */
  private static void fills(Path folder, FreeHistory.Filling filling, Round round) {
    if (round.begins("fills " + folder)) {
      String when =
          filling.fullAt() == null
              ? ""
              : " At this pace it is full in "
                  + Words.age(Duration.between(round.now(), filling.fullAt()))
                  + ".";
      round.tell(
          new News(
              Kind.DRIVE_FILLING,
              About.machine("/folders"),
              "The drive of " + folder + " is filling up",
              Sizes.words(filling.free())
                  + " are free."
                  + when
                  + " Folders says what takes the room."));
    }
  }
}
