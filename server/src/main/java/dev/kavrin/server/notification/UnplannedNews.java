package dev.kavrin.server.notification;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.incident.Unplanned;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import dev.kavrin.server.platform.PathGuard;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/**
 * Work that lies where nobody backs it up: just begun, or opened from a mail. Told of programs of
 * the person Kavrin runs as, and of what lies under its roots; where else other people work is
 * nobody's business.
 */
@Component
class UnplannedNews implements NewsSource {
  /** Who only looks at a file has closed it by then. */
  private static final Duration WORKED_ON = Duration.ofMinutes(5);

  private final Disk disk;
  private final PathGuard guard;
  private final String self = System.getProperty("user.name");

  UnplannedNews(Disk disk, PathGuard guard) {
    this.disk = disk;
    this.guard = guard;
  }

  @Override
  public void look(Collection<Kept> projects, Round round) {
    List<Kept> running =
        projects.stream().filter(k -> !k.incidents().instances().isEmpty()).toList();
    if (running.isEmpty()) {
      return;
    }
    Set<Path> documents = new HashSet<>();
    Set<Path> backups = new HashSet<>();
    for (Kept kept : projects) {
      documents.addAll(kept.livePaths());
      kept.folders().all().forEach(folder -> backups.add(folder.root()));
    }
    for (Kept kept : running) {
      Unplanned.of(
              disk,
              kept.project(),
              kept.incidents().instances(),
              kept.livePaths(),
              f -> documents.contains(f) || backups.stream().anyMatch(f::startsWith))
          .stream()
          .filter(u -> u.by().user().equals(self) || guard.allows(u.file()))
          .filter(u -> round.begins("unplanned " + u.file(), WORKED_ON))
          .forEach(u -> round.tell(news(kept, u)));
    }
  }

  private static News news(Kept kept, Unplanned unplanned) {
    Path folder = unplanned.file().getParent();
    return new News(
        Kind.UNPLANNED,
        About.project(
            kept.project().id(),
            "/start?folder=" + URLEncoder.encode(folder.toString(), StandardCharsets.UTF_8)),
        unplanned.file().getFileName() + " is backed up by nobody",
        kept.project().program().name()
            + " works on it in "
            + folder
            + (unplanned.passing() ? ", where things are cleared away without asking" : "")
            + ". Save it into "
            + unplanned.proper()
            + ", or have its folder protected.",
        unplanned.proper().toString());
  }
}
