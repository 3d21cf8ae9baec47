package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.server.platform.Settings;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Stream;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.extension.AfterAllCallback;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.BeforeEachCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * The real application on a free port, with a database and folders of its own: one for each test,
 * or for a class when registered in a static field; each test has work folders of its own.
 */
public final class RunningKavrin
    implements BeforeAllCallback, AfterAllCallback, BeforeEachCallback, AfterEachCallback {
  static {
    // Each look is a call with queries behind it; four a second leave the cores to what is tested.
    Awaitility.setDefaultPollInterval(Duration.ofMillis(250));
  }

  private final Disk disk;
  private final boolean pausable;
  private Path root;
  private Path world;
  private boolean shared;

  /** Two starts in one process would set up the one logging system at once. */
  private static final Object STARTING = new Object();

  private int count;
  private TestDatabase database;
  private Kavrin kavrin;
  private Client client;

  public RunningKavrin() {
    this(new RealDisk(), false);
  }

  private RunningKavrin(Disk disk, boolean pausable) {
    this.disk = disk;
    this.pausable = pausable;
  }

  /** Over another disk than this machine's. */
  static RunningKavrin over(Disk disk) {
    return new RunningKavrin(disk, false);
  }

  /** With a database that can be made to answer nothing. */
  static RunningKavrin withPausableDatabase() {
    return new RunningKavrin(new RealDisk(), true);
  }

  @Override
  public void beforeAll(ExtensionContext context) throws Exception {
    shared = true;
    open();
  }

  @Override
  public void beforeEach(ExtensionContext context) throws Exception {
    if (!shared) {
      open();
    }
    world = root.resolve("world").resolve(String.valueOf(++count));
    Files.createDirectories(work());
  }

  private void open() throws Exception {
    root = Files.createTempDirectory("kavrin-server-test").toRealPath();
    Files.createDirectories(root.resolve("world"));
    database = new TestDatabase(pausable);
    start();
  }

  void start() throws Exception {
    synchronized (STARTING) {
      kavrin = Kavrin.start(settings(0), disk);
    }
    client = Client.entered(kavrin.newLink());
  }

  Settings settings(int port) {
    return new Settings(
        root.resolve("data"),
        port,
        List.of(root.resolve("world")),
        database.url(),
        database.user(),
        database.password(),
        ZoneId.of("UTC"),
        "Ilse Quarn",
        null,
        List.of());
  }

  void stop() {
    if (kavrin != null) {
      kavrin.close();
      kavrin = null;
    }
  }

  @Override
  public void afterEach(ExtensionContext context) throws Exception {
    if (!shared) {
      shut();
    }
  }

  @Override
  public void afterAll(ExtensionContext context) throws Exception {
    if (shared) {
      shut();
    }
  }

  private void shut() throws Exception {
    stop();
    database.close();
    try (Stream<Path> all = Files.walk(root)) {
      all.sorted(Comparator.reverseOrder()).forEach(p -> p.toFile().delete());
    }
  }

  /** Kavrin's own folder. */
  Path data() {
    return root.resolve("data");
  }

  public Path work() {
    return world.resolve("carriage");
  }

  Path keep() {
    return world.resolve("keep");
  }

  public Path live() {
    return work().resolve("carriage-02.glb");
  }

  TestDatabase database() {
    return database;
  }

  public Kavrin kavrin() {
    return kavrin;
  }

  Client client() {
    return client;
  }

  /** A small model with parts of the given names. */
  public static byte[] model(String... parts) {
    GlbWriter writer = new GlbWriter();
    for (int i = 0; i < parts.length; i++) {
      writer.mesh(
          parts[i],
          -1,
          new MeshData(
              new float[] {i, 0, 0, i + 1, 0, 0, i, 1, parts[i].length()}, new int[] {0, 1, 2}),
          null,
          null,
          -1);
    }
    return writer.bytes(Map.of());
  }

  public void write(Path file, byte[] bytes) throws IOException {
    Files.createDirectories(file.getParent());
    Files.write(file, bytes);
  }

  /** Makes a folder of this test's world a project of GLB files that is backed up in another. */
  Client.Answer project(Path work, Path keep, int intervalSeconds) throws Exception {
    return client.post(
        "/api/projects",
        """
        {"name":"%s","folder":"%s","rule":["*.glb"],"recovery":"%s",
         "plan":{"interval":"PT%dS","quiet":"PT2S","hardLimit":"PT60S","keep":{"newest":50,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}}
        """
            .formatted(work.getFileName(), work, keep, intervalSeconds));
  }

  /** A folder in this test's world. */
  public Path in(String name) {
    return world.resolve(name);
  }

  /** Backups that stand in a folder. */
  static long backups(Path keep) throws IOException {
    return backups(keep, "[^.].*\\.glb");
  }

  /** Those whose names fit a pattern. */
  static long backups(Path keep, String name) throws IOException {
    if (!Files.exists(keep)) {
      return 0;
    }
    try (Stream<Path> all = Files.walk(keep)) {
      return all.filter(p -> !p.toString().contains(".kavrin"))
          .filter(p -> p.getFileName().toString().matches(name))
          .count();
    }
  }

  /** Takes files away behind Kavrin's back. */
  static void forget(Path folder, String name) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path file : all.filter(p -> p.getFileName().toString().matches(name)).toList()) {
        Files.delete(file);
      }
    }
  }

  /** Makes the carriage a project; its program is known by a session sign and two leftovers. */
  Client.Answer project(int intervalSeconds) throws Exception {
    return project(intervalSeconds, "no-process-has-these-words");
  }

  /** The same of a program that is known by other words. */
  public void project(String process) throws Exception {
    assertThat(project(600, process).status()).isLessThan(300);
  }

  /** The same of a program with a settings file in which minutes between autosaves stand. */
  public void project(String process, Path settings, Duration wanted) throws Exception {
    String link =
        """
        "settings":{"file":"%s","kind":"PROPERTIES","separator":".","keys":{"INTERVAL":"safety.minutes"},
          "unit":"MINUTES","wanted":{"interval":"%s"}},
        """
            .formatted(settings, wanted);
    assertThat(project(600, process, link).status()).isLessThan(300);
  }

  private Client.Answer project(int intervalSeconds, String process) throws Exception {
    return project(intervalSeconds, process, "");
  }

  private Client.Answer project(int intervalSeconds, String process, String settings)
      throws Exception {
    return client.post(
        "/api/projects",
        """
        {"name":"Carriage","folder":"%s","rule":["*.glb"],"recovery":"%s",
         "program":{"name":"Tarn Modeller","process":"%s","sessionSign":".{stem}.open",
           %s"writesEvery":"PT10M","leftovers":[
           {"kind":"AUTOSAVE","folder":".drafts","pattern":"{stem}~{n}.tmp"},
           {"kind":"RESCUE","folder":".drafts","pattern":"{stem}.rescue"}]},
         "plan":{"interval":"PT%dS","quiet":"PT2S","hardLimit":"PT60S","keep":{"newest":5,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}}
        """
            .formatted(work(), keep(), process, settings, intervalSeconds));
  }

  /** A person looks up the settings of the only project's program, and says what they should be. */
  public void lookedUp(String found, String wanted) throws Exception {
    JsonNode project = client.get("/api/projects").json().get(0);
    ObjectNode program = ((ObjectNode) project.path("program")).deepCopy();
    program.set(
        "asked",
        JsonMapper.shared().readTree("{\"found\":%s,\"wanted\":%s}".formatted(found, wanted)));
    String body =
        JsonMapper.shared()
            .createObjectNode()
            .<ObjectNode>set("plan", project.path("plan"))
            .set("program", program)
            .toString();
    Client.Answer answer =
        client.put(
            "/api/projects/" + project.path("id").asString(),
            "\"" + project.path("version").asLong() + "\"",
            body);
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
  }

  /** How the own settings of a project's program stand. */
  public JsonNode program(UUID project) throws Exception {
    return client.get("/api/projects/" + project + "/program").json();
  }

  /** Id of the only document of this test's project. */
  String document() throws Exception {
    for (JsonNode project : client.get("/api/overview").json().path("projects")) {
      if (project.path("folder").asString().equals(work().toString())) {
        return project.at("/documents/0/id").asString();
      }
    }
    throw new IllegalStateException("No project of " + work());
  }
}
