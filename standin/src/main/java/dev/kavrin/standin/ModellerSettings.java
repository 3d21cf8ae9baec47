package dev.kavrin.standin;

import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Properties;

/**
 * The program's own settings, read from a plain text file each time they matter.
 *
 * @param over true to write a copy over the one before it in the same file, else a new file each
 *     time that then takes its name
 * @param whenIdle true to make copies only when nothing was done for a second
 * @param clears true to take the copies away at a close in order
 * @param names true to write process, machine and person into the lock file
 */
record ModellerSettings(
    boolean enabled,
    Duration every,
    int slots,
    String folder,
    boolean over,
    boolean whenIdle,
    boolean clears,
    boolean names) {
  static ModellerSettings read(Path file) throws IOException {
    Properties p = new Properties();
    if (Files.exists(file)) {
      try (Reader reader = Files.newBufferedReader(file)) {
        p.load(reader);
      }
    }
    return new ModellerSettings(
        Boolean.parseBoolean(p.getProperty("safety.copies", "true")),
        Duration.ofSeconds(
            Math.round(60 * Double.parseDouble(p.getProperty("safety.minutes", "10")))),
        Integer.parseInt(p.getProperty("safety.slots", "3")),
        p.getProperty("safety.folder", ".drafts"),
        Boolean.parseBoolean(p.getProperty("safety.over", "false")),
        Boolean.parseBoolean(p.getProperty("safety.idle", "false")),
        Boolean.parseBoolean(p.getProperty("safety.clears", "false")),
        Boolean.parseBoolean(p.getProperty("lock.names", "false")));
  }
}
