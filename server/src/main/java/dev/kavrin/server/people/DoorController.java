package dev.kavrin.server.people;

import dev.kavrin.core.disk.Permissions;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Settings;
import io.swagger.v3.oas.annotations.Hidden;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.HexFormat;
import org.springframework.core.env.Environment;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/**
 * Hands a new one-time link to whoever may read the file {@code door} in the data folder: the
 * person at the command line of this machine.
 */
@RestController
@Hidden
class DoorController {
  private final Doorkeeper doorkeeper;
  private final Settings settings;
  private final Environment environment;
  private final String key;

  DoorController(Doorkeeper doorkeeper, Settings settings, Environment environment)
      throws IOException {
    this.doorkeeper = doorkeeper;
    this.settings = settings;
    this.environment = environment;
    byte[] bytes = new byte[24];
    new SecureRandom().nextBytes(bytes);
    this.key = HexFormat.of().formatHex(bytes);
    Path file = settings.data().resolve("door");
    Files.deleteIfExists(file);
    Files.createFile(file, Permissions.of(file).ownerOnly());
    Files.writeString(file, key);
  }

  @PostMapping(path = "/api/door", produces = MediaType.TEXT_PLAIN_VALUE)
  String open(@RequestHeader("X-Kavrin-Door") String given) {
    boolean right =
        MessageDigest.isEqual(
            given.getBytes(StandardCharsets.UTF_8), key.getBytes(StandardCharsets.UTF_8));
    if (!right) {
      throw ProblemException.forbidden("wrong-key", "That is not the key of this door.");
    }
    return settings.here(environment.getRequiredProperty("local.server.port", Integer.class))
        + "/api/enter?token="
        + doorkeeper.newLink(settings.person());
  }
}
