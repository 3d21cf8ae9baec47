package dev.kavrin.server.telling;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.server.platform.LastLine;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import org.springframework.stereotype.Service;

/** How people are told, kept in a file only Kavrin's user may read. */
@Service
public class TellingService {
  private final LastLine<Telling> file;

  TellingService(Settings settings, Disk disk) {
    this.file =
        new LastLine<>(
            disk, settings.data().resolve("telling.jsonl"), Telling.class, Telling.DEFAULT);
  }

  Telling present() {
    return file.present();
  }

  /** Without the secret. */
  public Telling shown() {
    return present().shown();
  }

  /** A mail server's password stays as it was where none is given. */
  public synchronized void set(Telling changed) throws IOException {
    Telling.Mail mail = changed.mail();
    Telling.Mail before = present().mail();
    if (mail != null && mail.password() == null && before != null) {
      mail = mail.withPassword(before.password());
    }
    file.set(
        new Telling(
            changed.page(),
            changed.browser(),
            changed.desktop(),
            mail,
            changed.webhook(),
            changed.silent()));
  }
}
