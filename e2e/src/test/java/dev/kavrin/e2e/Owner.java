package dev.kavrin.e2e;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/** Runs commands as the person Kavrin serves: never as root. */
final class Owner {
  private static final boolean ROOT = "root".equals(System.getProperty("user.name"));
  private static final String NAME = System.getenv().getOrDefault("KAVRIN_TEST_OWNER", "kavrin");

  private Owner() {}

  static ProcessBuilder process(List<String> command) {
    List<String> all = new ArrayList<>();
    if (ROOT) {
      all.addAll(List.of("setpriv", "--reuid=" + NAME, "--regid=" + NAME, "--init-groups"));
    }
    all.addAll(command);
    ProcessBuilder builder = new ProcessBuilder(all);
    builder.environment().put("LANG", "C.UTF-8");
    builder.environment().put("LC_ALL", "C.UTF-8");
    return builder;
  }

  /** Runs to the end; what it printed. */
  static String run(String... command) throws IOException, InterruptedException {
    Process process = process(List.of(command)).redirectErrorStream(true).start();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    if (process.waitFor() != 0) {
      throw new IOException(String.join(" ", command) + ": " + said);
    }
    return said;
  }

  /** Hands a folder and all in it to that person. */
  static void give(Path folder) throws IOException, InterruptedException {
    if (ROOT) {
      new ProcessBuilder("chown", "-R", NAME + ":", folder.toString()).start().waitFor();
    }
  }

  /** Takes the right to write away, from that person too. */
  static void lock(Path folder) throws IOException {
    Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("r-xr-xr-x"));
  }

  static Path folder(String prefix) throws IOException, InterruptedException {
    Path folder = Files.createTempDirectory(prefix).toRealPath();
    new ProcessBuilder("chmod", "755", folder.toString()).start().waitFor();
    give(folder);
    return folder;
  }

  static void clear(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      all.sorted(java.util.Comparator.reverseOrder()).forEach(p -> p.toFile().delete());
    }
  }
}
