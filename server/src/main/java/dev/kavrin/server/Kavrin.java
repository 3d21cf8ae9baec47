package dev.kavrin.server;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.WorkHours;
import dev.kavrin.server.offsite.Buckets;
import dev.kavrin.server.offsite.KeyFiles;
import dev.kavrin.server.overview.FirstLook;
import dev.kavrin.server.people.Doorkeeper;
import dev.kavrin.server.platform.BackupReaders;
import dev.kavrin.server.platform.Node;
import dev.kavrin.server.platform.Outside;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.project.ProjectCreation;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Map;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.MigrationInfo;
import org.flywaydb.core.api.MigrationState;
import org.springframework.boot.SpringApplication;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.support.GenericApplicationContext;

/**
 * Starts in two steps: the engine from disk alone, so that copies go on in any case; then records
 * and screens, as soon as the database answers.
 */
public final class Kavrin implements AutoCloseable {
  private final Engine engine;
  private final BackupReaders reader;
  private final ConfigurableApplicationContext context;

  private Kavrin(Engine engine, BackupReaders reader, ConfigurableApplicationContext context) {
    this.engine = engine;
    this.reader = reader;
    this.context = context;
  }

  /** {@code java … SETTINGS-FILE}. Refuses to run as root. */
  public static void main(String[] arguments) throws Exception {
    if ("root".equals(System.getProperty("user.name"))) {
      System.err.println("Kavrin does not run as root. Use ./kavrin start, which drops to a user.");
      System.exit(77);
    }
    Kavrin kavrin = started(Settings.read(Path.of(arguments[0])));
    Runtime.getRuntime().addShutdownHook(new Thread(kavrin::close, "stop"));
    new FirstLook(kavrin.bean(Settings.class).outside()).take(URI.create(kavrin.newLink()));
    System.out.println("Open " + kavrin.newLink());
  }

  private static Kavrin started(Settings settings) throws IOException, InterruptedException {
    try {
      return start(settings);
    } catch (NewerRecordsException newer) {
      System.err.println(newer.getMessage());
      System.exit(78);
      throw newer;
    }
  }

  public static Kavrin start(Settings settings) throws IOException, InterruptedException {
    return start(settings, new RealDisk());
  }

  /** The same over another disk than this machine's. */
  static Kavrin start(Settings settings, Disk disk) throws IOException, InterruptedException {
    Node node = Node.of(settings.data());
    WorkHours hours = new WorkHours(settings.data(), settings.zone(), Clockwork.system());
    BackupReaders reader = new BackupReaders(hours::bytesPerSecond);
    KeyFiles keys = new KeyFiles(settings.data());
    Engine engine =
        new Engine(
            settings, node.id(), hours, reader, new Buckets(keys), keys, Clockwork.system(), disk);
    engine.start();
    WaitingRoom.untilDatabaseAnswers(settings);
    try {
      refuseNewerRecords(settings);
    } catch (NewerRecordsException newer) {
      engine.close();
      reader.close();
      throw newer;
    }
    SpringApplication application = new SpringApplication(KavrinApplication.class);
    application.setRegisterShutdownHook(false);
    application.setDefaultProperties(Map.of("server.port", settings.port()));
    application.addInitializers(
        c -> {
          GenericApplicationContext generic = (GenericApplicationContext) c;
          generic.registerBean(Settings.class, () -> settings);
          generic.registerBean(KeyFiles.class, () -> keys);
          generic.registerBean(BackupReaders.class, () -> reader, d -> d.setDestroyMethodName(""));
          generic.registerBean(Engine.class, () -> engine, d -> d.setDestroyMethodName(""));
        });
    Kavrin kavrin = new Kavrin(engine, reader, application.run(listening(settings)));
    try {
      kavrin.bean(JournalFollower.class).follow();
      for (Path recovery : settings.adopt()) {
        kavrin.bean(ProjectCreation.class).adoptFolder(recovery.toString());
      }
      return kavrin;
    } catch (IOException | RuntimeException failed) {
      kavrin.close();
      throw failed;
    }
  }

  /** An older Kavrin must not work on records whose meaning it does not know. */
  private static void refuseNewerRecords(Settings settings) {
    Flyway changes =
        Flyway.configure()
            .dataSource(
                settings.databaseUrl(), settings.databaseUser(), settings.databasePassword())
            .load();
    MigrationInfo[] all = changes.info().all();
    for (MigrationInfo change : all) {
      if (change.getState() == MigrationState.FUTURE_SUCCESS
          || change.getState() == MigrationState.FUTURE_FAILED) {
        String known =
            Arrays.stream(all)
                .filter(c -> c.getState().isResolved())
                .map(c -> String.valueOf(c.getVersion()))
                .reduce((a, b) -> b)
                .orElse("none");
        throw new NewerRecordsException(String.valueOf(change.getVersion()), known);
      }
    }
  }

  /** Off loopback there is no door without TLS. */
  private static String[] listening(Settings settings) {
    Outside outside = settings.outside();
    return outside == null
        ? new String[0]
        : new String[] {
          "--server.address=" + outside.address(),
          "--server.ssl.certificate=" + outside.certificate().toUri(),
          "--server.ssl.certificate-private-key=" + outside.key().toUri(),
          "--server.ssl.enabled-protocols=" + String.join(",", Outside.PROTOCOLS)
        };
  }

  public int port() {
    return Integer.parseInt(context.getEnvironment().getProperty("local.server.port", "0"));
  }

  /** A link that opens the door once. */
  public String newLink() {
    Settings settings = context.getBean(Settings.class);
    String token = context.getBean(Doorkeeper.class).newLink(settings.person());
    return settings.here(port()) + "/api/enter?token=" + token;
  }

  public <T> T bean(Class<T> type) {
    return context.getBean(type);
  }

  @Override
  public void close() {
    engine.close();
    context.close();
    reader.close();
  }
}
