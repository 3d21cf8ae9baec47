package dev.kavrin.standin;

import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Properties;

/** The program's own settings, read from a plain text file each time they matter. */
record ModellerSettings(boolean enabled, Duration every, int slots, String folder) {
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
        p.getProperty("safety.folder", ".drafts"));
  }
}
