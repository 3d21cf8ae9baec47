package dev.kavrin.server.notification;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.server.platform.LastLine;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import org.springframework.stereotype.Service;

/** How people are told, kept in a file only Kavrin's user may read. */
@Service
public class NotificationService {
  private final LastLine<NotificationSettings> file;

  NotificationService(Settings settings, Disk disk) {
    this.file =
        new LastLine<>(
            disk,
            settings.data().resolve("telling.jsonl"),
            NotificationSettings.class,
            NotificationSettings.DEFAULT);
  }

  NotificationSettings present() {
    return file.present();
  }

  /** Without the secret. */
  public NotificationSettings shown() {
    return present().shown();
  }

  /** A mail server's password stays as it was where none is given. */
  public synchronized void set(NotificationSettings changed) throws IOException {
    NotificationSettings.Mail mail = changed.mail();
    NotificationSettings.Mail before = present().mail();
    if (mail != null && mail.password() == null && before != null) {
      mail = mail.withPassword(before.password());
    }
    file.set(
        new NotificationSettings(
            changed.page(),
            changed.browser(),
            changed.desktop(),
            mail,
            changed.webhook(),
            changed.silent()));
  }
}
