package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Locale;

/**
 * Finds out what a folder can do by doing it with small files of its own, in a folder of its own
 * below Kavrin's there. What a kill leaves of it goes the next time.
 */
final class AbilityProbe {
  private static final int[] NAME_LENGTHS = {255, 240, 200, 143, 100};
  private static final long[] TIME_STEPS = {
    1, 100, 1_000, 1_000_000, 10_000_000, 1_000_000_000, 2_000_000_000
  };
  private static final long ODD_TIME = 1_700_000_001_987_654_321L;

  private static final String OWN = ".kavrin";

  private final Disk disk;
  private final Path own;
  private final Path folder;
  private final String node;

  AbilityProbe(Disk disk, Path folder, String node) {
    this.disk = disk;
    this.own = folder.resolve(OWN);
    this.folder = own.resolve("probe-" + node);
    this.node = node;
  }

  Abilities measure() throws IOException {
    boolean ownStood = disk.facts(own).isPresent();
    disk.makeFolders(folder);
    try {
      for (Path left : disk.list(folder)) {
        disk.unlink(left);
      }
      return tried();
    } finally {
      disk.removeFolder(folder);
      if (!ownStood) {
        disk.removeFolder(own);
      }
    }
  }

  private Abilities tried() throws IOException {
    Path a = file();
    Path b = file();
    try {
      String key = key(a);
      boolean links = links(a);
      boolean exchange = attempt(() -> disk.exchange(a, b));
      if (exchange) {
        attempt(() -> disk.exchange(a, b));
      }
      boolean ifFree = renamesIfFree(b);
      boolean stable = key.equals(key(a)) && renamedKeepsKey(a);
      return new Abilities(
          links,
          exchange,
          ifFree,
          refusesWhileOpen(),
          clones(a),
          disk.keepsPermissions(a),
          timeStep(a),
          disk.facts(a.resolveSibling(a.getFileName().toString().toUpperCase(Locale.ROOT)))
              .isPresent(),
          longestName(),
          flushes(),
          stable);
    } finally {
      remove(a);
      remove(b);
    }
  }

  private Path name() {
    return StageName.in(folder, node);
  }

  private Path file() throws IOException {
    Path path = name();
    make(path);
    return path;
  }

  private void make(Path path) throws IOException {
    try (Sink sink = disk.create(path)) {
      sink.write(new byte[] {1}, 0, 1);
    }
  }

  private void remove(Path path) throws IOException {
    if (disk.facts(path).isPresent()) {
      disk.unlink(path);
    }
  }

  private String key(Path path) throws IOException {
    return disk.facts(path).map(FileFacts::key).orElse("");
  }

  private interface Attempt {
    boolean works() throws IOException;
  }

  private static boolean attempt(Attempt attempt) {
    try {
      return attempt.works();
    } catch (IOException | UnsupportedOperationException refused) {
      return false;
    }
  }

  private boolean links(Path a) throws IOException {
    Path second = name();
    boolean links =
        attempt(
            () -> {
              disk.link(a, second);
              return disk.facts(second).isPresent();
            });
    remove(second);
    return links;
  }

  /** Must move to a free name and refuse a taken one. */
  private boolean renamesIfFree(Path b) throws IOException {
    Path from = file();
    Path free = name();
    try {
      if (!attempt(() -> disk.renameIfFree(from, free))) {
        return false;
      }
      disk.renameIfFree(free, b);
      return false;
    } catch (FileAlreadyExistsException refused) {
      return true;
    } finally {
      remove(from);
      remove(free);
    }
  }

  private boolean renamedKeepsKey(Path a) throws IOException {
    Path to = name();
    String before = key(a);
    disk.rename(a, to);
    boolean same = before.equals(key(to));
    disk.rename(to, a);
    return same;
  }

  private boolean refusesWhileOpen() throws IOException {
    Path open = file();
    Path to = name();
    try (SeekableByteChannel in = disk.read(open)) {
      disk.rename(open, to);
      return false;
    } catch (IOException refused) {
      return true;
    } finally {
      remove(open);
      remove(to);
    }
  }

  private boolean clones(Path a) throws IOException {
    Path to = name();
    boolean clones = attempt(() -> disk.cloneTo(a, to));
    remove(to);
    return clones;
  }

  private Duration timeStep(Path a) throws IOException {
    disk.touch(a, ODD_TIME);
    long kept = disk.facts(a).map(FileFacts::modifiedNanos).orElse(0L);
    for (long step : TIME_STEPS) {
      if (Math.abs(kept - ODD_TIME) < step && kept % step == 0) {
        return Duration.ofNanos(step);
      }
    }
    return Duration.ofSeconds(2);
  }

  private int longestName() throws IOException {
    for (int length : NAME_LENGTHS) {
      String start = StageName.in(folder, node).getFileName().toString();
      Path path = folder.resolve(start + "x".repeat(Math.max(0, length - start.length())));
      if (attempt(
          () -> {
            make(path);
            return true;
          })) {
        remove(path);
        return length;
      }
    }
    return NAME_LENGTHS[NAME_LENGTHS.length - 1];
  }

  private boolean flushes() {
    return attempt(
        () -> {
          disk.flushFolder(folder);
          return true;
        });
  }
}
