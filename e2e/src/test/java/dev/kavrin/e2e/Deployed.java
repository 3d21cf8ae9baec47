package dev.kavrin.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.stream.Stream;

/** The built jars where the service's user can read them, once for all tests of a run. */
final class Deployed {
  private static final Path BUILD = Path.of("..").toAbsolutePath().normalize();
  private static Path app;
  private static Path archive;

  private Deployed() {}

  static synchronized Path app() {
    if (app == null) {
      try {
        app = deploy();
      } catch (IOException failed) {
        throw new UncheckedIOException(failed);
      } catch (InterruptedException interrupted) {
        throw new IllegalStateException(interrupted);
      }
    }
    return app;
  }

  /** An archive of loaded classes, which spares a start most of its loading. */
  static synchronized Path archive() {
    if (archive == null) {
      Path file = app().resolve("classes.jsa");
      try {
        Service.archiveClasses(file);
      } catch (IOException failed) {
        throw new UncheckedIOException(failed);
      } catch (InterruptedException interrupted) {
        throw new IllegalStateException(interrupted);
      }
      archive = file;
    }
    return archive;
  }

  private static Path deploy() throws IOException, InterruptedException {
    Path folder = Owner.folder("kavrin-e2e-app");
    for (String module : new String[] {"server", "demo", "standin"}) {
      for (String from : new String[] {"target", "target/lib"}) {
        try (Stream<Path> jars = Files.list(BUILD.resolve(module).resolve(from))) {
          for (Path jar : jars.filter(p -> p.toString().endsWith(".jar")).toList()) {
            Files.copy(jar, folder.resolve(jar.getFileName()), StandardCopyOption.REPLACE_EXISTING);
          }
        }
      }
    }
    Owner.give(folder);
    Runtime.getRuntime().addShutdownHook(new Thread(() -> clear(folder)));
    return folder;
  }

  private static void clear(Path folder) {
    try {
      Owner.clear(folder);
    } catch (IOException left) {
      System.err.println("left behind: " + folder);
    }
  }
}
