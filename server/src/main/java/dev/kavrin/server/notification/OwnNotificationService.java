package dev.kavrin.server.notification;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.server.people.Rights;
import dev.kavrin.server.people.RightsByName;
import dev.kavrin.server.people.Role;
import dev.kavrin.server.platform.LastLine;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import org.springframework.stereotype.Service;

/**
 * What each person wants to hear of, kept in a file only Kavrin's user may read: it is needed while
 * the records are away, too.
 */
@Service
class OwnNotificationService {
  private final LastLine<Everyone> file;
  private final NotificationService settings;
  private final RightsByName rights;

  /**
   * @param people by name
   */
  record Everyone(Map<String, OwnNotifications> people) {
    Everyone {
      people = people == null ? Map.of() : Map.copyOf(people);
    }
  }

  OwnNotificationService(
      NotificationService settings, RightsByName rights, Settings where, Disk disk) {
    this.file =
        new LastLine<>(
            disk,
            where.data().resolve("own-notifications.jsonl"),
            Everyone.class,
            new Everyone(Map.of()));
    this.settings = settings;
    this.rights = rights;
  }

  /** As the person set it; until then as it is for everybody. */
  OwnNotifications of(String person) {
    NotificationSettings usual = settings.present();
    return file.present()
        .people()
        .getOrDefault(
            person, new OwnNotifications(usual.page(), usual.browser(), null, usual.silent()));
  }

  synchronized void set(String person, OwnNotifications changed) throws IOException {
    Map<String, OwnNotifications> all = new HashMap<>(file.present().people());
    all.put(person, changed);
    file.set(new Everyone(all));
  }

  /** True if somebody with these rights is told of it, and wants to be. */
  boolean hears(String person, Rights may, Notifier.Told told) {
    if (told.only() != null) {
      return told.only().equals(person);
    }
    boolean sees =
        may.mayEverywhere(Role.LOOK)
            || told.projects().stream().anyMatch(p -> may.may(p, Role.LOOK));
    return sees && !of(person).silent().contains(told.message().kind());
  }

  /** The addresses of those who want it by mail, by person. */
  Map<String, String> byMail(Notifier.Told told) {
    Map<String, String> all = new HashMap<>();
    file.present()
        .people()
        .forEach(
            (person, wanted) -> {
              if (wanted.mail() != null && hears(person, rights.of(person), told)) {
                all.put(person, wanted.mail());
              }
            });
    return all;
  }
}
