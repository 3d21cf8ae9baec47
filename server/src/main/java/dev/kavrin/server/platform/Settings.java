package dev.kavrin.server.platform;

import jakarta.annotation.Nullable;
import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Properties;

/**
 * What Kavrin was started with.
 *
 * @param data its own folder
 * @param port on loopback
 * @param roots folders under which places may lie
 * @param databaseUrl, databaseUser, databasePassword of its records
 * @param zone of the people
 * @param person who enters by the first one-time link
 * @param outside how it answers off loopback; null if it does not
 * @param adopt recovery folders to take in at start, as their journals have them
 */
public record Settings(
    Path data,
    int port,
    List<Path> roots,
    String databaseUrl,
    String databaseUser,
    String databasePassword,
    ZoneId zone,
    String person,
    @Nullable Outside outside,
    List<Path> adopt) {

  private static final List<Path> NEVER =
      List.of(Path.of("/"), Path.of("/etc"), Path.of("/proc"), Path.of("/sys"), Path.of("/dev"));

  /**
   * Reads a properties file: {@code data, port, roots, db.url, db.user, db.password, zone, person,
   * adopt}, and off loopback {@code name, address, tls.certificate, tls.key}; lists are separated
   * by colons.
   *
   * @throws IllegalArgumentException something is missing or not allowed; says what
   */
  public static Settings read(Path file) throws IOException {
    Properties p = new Properties();
    try (Reader reader = Files.newBufferedReader(file)) {
      p.load(reader);
    }
    Path data = Path.of(required(p, "data", file)).toAbsolutePath().normalize();
    return new Settings(
        data,
        Integer.parseInt(p.getProperty("port", "8710")),
        roots(p.getProperty("roots", ""), data),
        required(p, "db.url", file),
        required(p, "db.user", file),
        required(p, "db.password", file),
        ZoneId.of(p.getProperty("zone", ZoneId.systemDefault().getId())),
        p.getProperty("person", System.getProperty("user.name")),
        outside(p, file),
        paths(p.getProperty("adopt", "")));
  }

  private static Outside outside(Properties p, Path file) {
    String name = p.getProperty("name", "").strip();
    return name.isEmpty()
        ? null
        : new Outside(
            name,
            p.getProperty("address", "0.0.0.0"),
            Path.of(required(p, "tls.certificate", file)),
            Path.of(required(p, "tls.key", file)));
  }

  /** Where this machine itself calls the page. */
  public String here(int port) {
    return (outside == null ? "http" : "https") + "://127.0.0.1:" + port;
  }

  private static String required(Properties p, String key, Path file) {
    String value = p.getProperty(key);
    if (value == null || value.isBlank()) {
      throw new IllegalArgumentException("Settings file " + file + " lacks '" + key + "'");
    }
    return value;
  }

  private static List<Path> roots(String text, Path data) {
    List<Path> roots = new ArrayList<>();
    paths(text)
        .forEach(
            root -> {
              boolean system =
                  NEVER.stream()
                      .anyMatch(
                          n -> root.equals(n) || (n.getNameCount() > 0 && root.startsWith(n)));
              if (system || root.startsWith(data) || data.startsWith(root)) {
                throw new IllegalArgumentException(root + " cannot be an allowed root");
              }
              roots.add(root);
            });
    return List.copyOf(roots);
  }

  private static List<Path> paths(String text) {
    return Arrays.stream(text.split(":"))
        .filter(s -> !s.isBlank())
        .map(s -> Path.of(s.trim()).toAbsolutePath().normalize())
        .toList();
  }
}
