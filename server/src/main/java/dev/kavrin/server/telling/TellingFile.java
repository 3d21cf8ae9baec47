package dev.kavrin.server.telling;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.store.Journal;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;

/** Keeps how people are told, in a file only Kavrin's user may read; the last whole line holds. */
@Component
class TellingFile {
  private static final Logger LOG = LoggerFactory.getLogger(TellingFile.class);

  private final Disk disk;
  private final Path file;
  private volatile Telling present;

  TellingFile(Settings settings, Disk disk) {
    this.disk = disk;
    this.file = settings.data().resolve("telling.jsonl");
    this.present = read();
  }

  Telling present() {
    return present;
  }

  private Telling read() {
    try {
      List<String> lines = Files.exists(file) ? Files.readAllLines(file) : List.of();
      for (int i = lines.size() - 1; i >= 0; i--) {
        try {
          return Journal.MAPPER.readValue(lines.get(i), Telling.class);
        } catch (JacksonException torn) {
          LOG.warn("{}: a line that cannot be read was passed over", file);
        }
      }
    } catch (IOException unreadable) {
      LOG.warn("{} cannot be read: {}", file, unreadable.getMessage());
    }
    return Telling.DEFAULT;
  }

  /** A mail server's password stays as it was where none is given. */
  synchronized void set(Telling changed) throws IOException {
    Telling.Mail mail = changed.mail();
    if (mail != null && mail.password() == null && present.mail() != null) {
      mail = mail.withPassword(present.mail().password());
    }
    Telling whole =
        new Telling(
            changed.page(),
            changed.browser(),
            changed.desktop(),
            mail,
            changed.webhook(),
            changed.silent());
    byte[] line =
        (Journal.MAPPER.writeValueAsString(whole) + "\n").getBytes(StandardCharsets.UTF_8);
    try (Sink sink = disk.append(file)) {
      sink.write(line, 0, line.length);
      sink.flush();
    }
    present = whole;
  }
}
