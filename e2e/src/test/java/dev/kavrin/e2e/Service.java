package dev.kavrin.e2e;

import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** The real server as a process of its own, as {@code ./kavrin start} runs it. */
final class Service implements AutoCloseable {
  private static final Path TEST_DIR = Path.of(System.getenv("KAVRIN_TEST_DIR"));

  private static final int LINES_TOLD = 60;
  private static final ThreadLocal<Service> NEWEST = new ThreadLocal<>();

  private final Path base;
  private final String database = "e2e_" + System.nanoTime();
  private final int tiers;
  private Process process;
  private List<String> lastWords = List.of();

  /** Compiled quickly rather than well: most tests start it often and ask little of it. */
  Service() throws IOException, InterruptedException {
    this(1);
  }

  /** A server as good as the one people run. */
  static Service tuned() throws IOException, InterruptedException {
    return new Service(4);
  }

  private Service(int tiers) throws IOException, InterruptedException {
    this.tiers = tiers;
    base = Owner.folder("kavrin-e2e");
    Files.createDirectories(world());
    Files.createDirectories(base.resolve("data"));
    Owner.give(base);
    sql("create database " + database);
    Files.writeString(
        base.resolve("kavrin.properties"),
        """
        data=%s
        port=0
        roots=%s
        person=Ilse Quarn
        zone=UTC
        db.url=jdbc:postgresql://127.0.0.1:%s/%s
        db.user=kavrin
        db.password=%s
        """
            .formatted(
                base.resolve("data"),
                world(),
                Files.readString(TEST_DIR.resolve("db.port")),
                database,
                Files.readString(TEST_DIR.resolve("db.password"))));
  }

  private static void sql(String statement) throws IOException, InterruptedException {
    ProcessBuilder builder =
        new ProcessBuilder(
            "psql",
            "-h",
            "127.0.0.1",
            "-p",
            Files.readString(TEST_DIR.resolve("db.port")),
            "-U",
            "kavrin",
            "-d",
            "postgres",
            "-qc",
            statement);
    builder.environment().put("PGPASSWORD", Files.readString(TEST_DIR.resolve("db.password")));
    if (builder.inheritIO().start().waitFor() != 0) {
      throw new IOException(statement);
    }
  }

  /** From its next start it answers by TLS, with a certificate that nobody vouches for. */
  void behindTls() throws IOException, InterruptedException {
    Path certificate = base.resolve("data/server.crt");
    Path key = base.resolve("data/server.key");
    Owner.run(
        "openssl",
        "req",
        "-x509",
        "-newkey",
        "ec",
        "-pkeyopt",
        "ec_paramgen_curve:P-256",
        "-nodes",
        "-days",
        "2",
        "-subj",
        "/CN=localhost",
        "-addext",
        "subjectAltName=DNS:localhost,IP:127.0.0.1",
        "-keyout",
        key.toString(),
        "-out",
        certificate.toString());
    Files.writeString(
        base.resolve("kavrin.properties"),
        "name=localhost\naddress=127.0.0.1\ntls.certificate=%s\ntls.key=%s\n"
            .formatted(certificate, key),
        StandardOpenOption.APPEND);
  }

  /** The server's own folder. */
  Path data() {
    return base.resolve("data");
  }

  Path world() {
    return base.resolve("world");
  }

  /** Command line of a Java program of ours, from the deployed jars. */
  List<String> java(String type, String... arguments) {
    List<String> command =
        new java.util.ArrayList<>(
            List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx512m",
                "-XX:+UseSerialGC",
                "-XX:TieredStopAtLevel=" + tiers,
                "-XX:ReservedCodeCacheSize=240m",
                "-Xlog:cds=off",
                "-Xlog:cds+dynamic=off",
                "-cp",
                Deployed.app() + "/*",
                type));
    command.addAll(List.of(arguments));
    return command;
  }

  /** Starts, and waits until it answers; the answer is a one-time link. */
  String start() throws IOException {
    return answered(launch());
  }

  private String answered(Path log) throws IOException {
    await().atMost(Duration.ofMinutes(5)).until(() -> !process.isAlive() || link(log) != null);
    if (link(log) == null) {
      throw new IOException("The server ended: " + Files.readString(log, StandardCharsets.UTF_8));
    }
    return link(log);
  }

  /** Starts without waiting for anything; the answer is its log. */
  Path launch() throws IOException {
    return launch("-XX:SharedArchiveFile=" + Deployed.archive());
  }

  private Path launch(String classes) throws IOException {
    NEWEST.set(this);
    Path log = base.resolve("data/log");
    Files.deleteIfExists(log);
    List<String> command =
        java("dev.kavrin.server.Kavrin", base.resolve("kavrin.properties").toString());
    command.add(1, classes);
    process = Owner.process(command).redirectErrorStream(true).redirectOutput(log.toFile()).start();
    return log;
  }

  /**
   * As {@code ./kavrin start} does: what one process loaded is archived for those after it. Writing
   * the archive makes that one process slow, so it is done once and nothing else waits in it.
   */
  static void archiveClasses(Path archive) throws IOException, InterruptedException {
    try (Service first = new Service()) {
      first.answered(first.launch("-XX:ArchiveClassesAtExit=" + archive));
      first.process.destroy();
      if (!first.process.waitFor(5, TimeUnit.MINUTES)) {
        throw new IOException("No archive of loaded classes was written within five minutes.");
      }
    }
  }

  /** The last lines of the log of the service made last. */
  static String said() throws IOException {
    Service service = NEWEST.get();
    return service == null ? "nothing" : String.join("\n", service.words());
  }

  private List<String> words() throws IOException {
    Path log = base.resolve("data/log");
    if (Files.exists(log)) {
      List<String> lines = Files.readAllLines(log);
      lastWords = lines.subList(Math.max(0, lines.size() - LINES_TOLD), lines.size());
    }
    return lastWords;
  }

  private static String link(Path log) throws IOException {
    return Files.readAllLines(log).stream()
        .filter(l -> l.startsWith("Open "))
        .map(l -> l.substring(5))
        .findFirst()
        .orElse(null);
  }

  Process process() {
    return process;
  }

  /** SIGKILL, as the kernel does when memory runs out. */
  void kill() throws InterruptedException {
    process.destroyForcibly().waitFor(20, TimeUnit.SECONDS);
  }

  /** Ends by itself, as when one stops it. */
  void end() throws InterruptedException {
    process.destroy();
    if (!process.waitFor(30, TimeUnit.SECONDS)) {
      kill();
    }
  }

  @Override
  public void close() throws IOException, InterruptedException {
    if (process != null) {
      end();
    }
    words();
    sql("drop database if exists " + database + " with (force)");
    Owner.clear(base);
  }
}
