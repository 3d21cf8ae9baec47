package dev.kavrin.server.search;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.offsite.Store;
import dev.kavrin.core.offsite.StoredObject;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Scratch;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * What other tools left in the stores elsewhere: nothing is changed there, and only what is asked
 * for is fetched. Objects of Kavrin's own, and stores whose contents are encrypted, are left out.
 */
@Component
class StoreFiles {
  private static final Logger LOG = LoggerFactory.getLogger(StoreFiles.class);
  private static final String OWN = "/journal/";

  private final Engine engine;
  private final Scratch scratch;

  StoreFiles(Engine engine, Scratch scratch) {
    this.engine = engine;
    this.scratch = scratch;
  }

  /**
   * An object somebody else left there.
   *
   * @param address of the object: that of the store, a slash, its name there
   */
  record Foreign(StoreAddress store, StoredObject object, String address) {
    /** As if the store were a folder: for what tells by name and place. */
    Path asPath() {
      return Path.of("/" + object.name());
    }

    Instant modified() {
      return object.modified() == null ? Instant.EPOCH : object.modified();
    }
  }

  /** Stores that are addresses rather than folders of this machine, each once. */
  private List<StoreAddress> stores() {
    Map<String, StoreAddress> found = new LinkedHashMap<>();
    engine
        .projects()
        .forEach(
            k ->
                new Elsewhere(k.folders().history())
                    .stores(k.project().id()).stream()
                        .filter(s -> !s.isFolder() && s.seal() == null)
                        .forEach(s -> found.putIfAbsent(s.address(), s)));
    return List.copyOf(found.values());
  }

  /** All that are wanted of all stores that answer. */
  List<Foreign> all(Predicate<Foreign> wanted) {
    return stores().stream().flatMap(s -> in(s).stream()).filter(wanted).toList();
  }

  private List<Foreign> in(StoreAddress address) {
    try (Store store = engine.stores().open(address)) {
      List<StoredObject> objects = store.list("");
      Set<String> own =
          objects.stream()
              .map(StoredObject::name)
              .filter(n -> n.indexOf(OWN) > 0 && n.indexOf(OWN) == n.indexOf('/'))
              .map(n -> n.substring(0, n.indexOf('/') + 1))
              .collect(Collectors.toSet());
      return objects.stream()
          .filter(o -> own.stream().noneMatch(o.name()::startsWith))
          .map(o -> new Foreign(address, o, address.address() + "/" + o.name()))
          .toList();
    } catch (IOException away) {
      LOG.info("{} was not looked through: {}", address.address(), away.getMessage());
      return List.of();
    }
  }

  /** Something done with an object's bytes. */
  @FunctionalInterface
  interface Work<T> {
    T with(Path file, ContentId content) throws IOException;
  }

  /** Fetches an object for as long as something is done with it. */
  <T> T fetched(Foreign foreign, Work<T> work) throws IOException {
    return scratch.with(
        foreign.object().length(),
        folder -> {
          Path file = folder.resolve(foreign.asPath().getFileName());
          try (Store store = engine.stores().open(foreign.store());
              InputStream in = store.get(foreign.object().name())) {
            engine.publisher().publish(file, sink -> Copying.copy(in, sink), PublishCheck.NONE);
          }
          return work.with(file, engine.publisher().identify(file));
        });
  }

  /**
   * The object at an address.
   *
   * @throws ProblemException it is gone, or its store is no longer one of a project's
   */
  Foreign at(String address) throws IOException {
    for (StoreAddress at : stores()) {
      String begin = at.address() + "/";
      if (address.startsWith(begin)) {
        try (Store store = engine.stores().open(at)) {
          Optional<StoredObject> object = store.find(address.substring(begin.length()));
          if (object.isPresent()) {
            return new Foreign(at, object.get(), address);
          }
        }
      }
    }
    throw ProblemException.notFound(address + " is not there any more. Nothing was taken in.");
  }
}
