package dev.kavrin.annex;

import java.io.BufferedReader;
import java.io.File;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;

/** The store elsewhere as a process of its own; killed and started again it has what it had. */
public final class AnnexProcess implements AutoCloseable {
  public static final String BUCKET = "annex";

  /** Where this module's classes are built, its libraries beside them. */
  private static final Path BUILT = Path.of("..", "annex", "target").toAbsolutePath().normalize();

  private final Path root;
  private Process process;
  private URI address;

  /**
   * Makes a key and starts it on any free port.
   *
   * @param root an empty folder for all that is its own
   */
  public AnnexProcess(Path root) throws IOException {
    this.root = root;
    Files.writeString(key(), "access-key=annex\nsecret-key=orlop-gudgeon\n");
    start(0);
  }

  private void start(int port) throws IOException {
    process =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx128m",
                "-cp",
                BUILT.resolve("classes") + File.pathSeparator + BUILT.resolve("lib") + "/*",
                "dev.kavrin.annex.Annex",
                root.resolve("objects").toString(),
                BUCKET,
                key().toString(),
                String.valueOf(port))
            .redirectError(root.resolve("annex.log").toFile())
            .start();
    String line =
        new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))
            .readLine();
    if (line == null) {
      throw new IOException("No store: " + Files.readString(root.resolve("annex.log")));
    }
    address = URI.create(line);
  }

  private Path key() {
    return root.resolve("annex.key");
  }

  public URI address() {
    return address;
  }

  /** Starts it again at the same address. */
  public void startAgain() throws IOException {
    start(address.getPort());
  }

  /** Lays the key where a Kavrin looks for keys. */
  public void giveKey(Path data) throws IOException {
    Path key = Files.createDirectories(data.resolve("keys")).resolve("annex.key");
    Files.copy(key(), key);
    Files.setPosixFilePermissions(key, PosixFilePermissions.fromString("rw-------"));
  }

  @Override
  public void close() {
    try {
      process.destroyForcibly().waitFor();
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
    }
  }
}
