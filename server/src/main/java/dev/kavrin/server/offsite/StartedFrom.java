package dev.kavrin.server.offsite;

import dev.kavrin.server.offsite.OffsiteController.PlaceRequest;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Properties;
import org.springframework.stereotype.Component;

/** The store that Kavrin was started from on a new machine, as the start command wrote it down. */
@Component
class StartedFrom {
  private final Path file;

  StartedFrom(Settings settings) {
    this.file = settings.data().resolve("from.properties");
  }

  Optional<PlaceRequest> place() throws IOException {
    if (!Files.isRegularFile(file)) {
      return Optional.empty();
    }
    Properties said = new Properties();
    try (Reader reader = Files.newBufferedReader(file)) {
      said.load(reader);
    }
    return Optional.ofNullable(said.getProperty("address"))
        .map(
            address ->
                new PlaceRequest(
                    address,
                    said.getProperty("service"),
                    said.getProperty("region"),
                    said.getProperty("key"),
                    said.getProperty("authority"),
                    said.getProperty("passphrase")));
  }
}
