package dev.kavrin.e2e;

import com.microsoft.playwright.Page;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** The service with the sample world, and a page that is let in. */
final class Demo implements AutoCloseable {
  private final Service service;
  final Browser browser;
  final Page page;
  final Path carriage;

  Demo() throws Exception {
    service = new Service();
    Path world = service.world().resolve("tarnwick");
    Owner.give(service.world());
    Path data = service.world().getParent().resolve("data");
    Files.writeString(data.resolve("node"), "e2e00001");
    Owner.give(data);
    List<String> make = service.java("dev.kavrin.demo.Demo", world.toString(), "UTC", "e2e00001");
    Owner.run(make.toArray(String[]::new));
    Files.writeString(
        service.world().getParent().resolve("kavrin.properties"),
        "adopt=" + world.resolve("keep") + "\n",
        java.nio.file.StandardOpenOption.APPEND);
    carriage = world.resolve("incline/carriage");
    browser = new Browser();
    page = browser.enter(service.start());
  }

  @Override
  public void close() throws Exception {
    browser.close();
    service.close();
  }
}
