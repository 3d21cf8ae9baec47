package dev.kavrin.standin;

import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;

/**
 * A modelling program as seen from outside: opens one file, saves it, keeps its earlier state,
 * makes copies of its own in a hidden folder, leaves a session sign, and may die at any moment.
 */
public final class Modeller {
  private static final Duration IDLE = Duration.ofSeconds(1);
  private static final int MOST_SLOTS = 99;

  private final Path file;
  private final Path settingsFile;
  private final InstantSource clock;
  private final Scene scene;
  private Instant lastCopy;
  private Instant lastTouch;
  private int slot;
  private boolean changed;

  public Modeller(Path file, Path settingsFile, InstantSource clock) throws IOException {
    this.file = file;
    this.settingsFile = settingsFile;
    this.clock = clock;
    this.scene = Scene.open(file);
    this.lastCopy = clock.instant();
    this.lastTouch = lastCopy;
    this.slot = newestSlot();
    write(sign(), lock().getBytes(StandardCharsets.US_ASCII));
  }

  private String lock() throws IOException {
    if (!ModellerSettings.read(settingsFile).names()) {
      return "open\n";
    }
    return "pid %d%nhost %s%nuser %s%n"
        .formatted(
            ProcessHandle.current().pid(),
            InetAddress.getLocalHost().getHostName(),
            System.getProperty("user.name"));
  }

  public Scene scene() {
    return scene;
  }

  /** Something in the scene was changed. */
  public void touched() {
    changed = true;
    lastTouch = clock.instant();
  }

  private String stem() {
    return file.getFileName().toString().replaceFirst("\\.[^.]+$", "");
  }

  Path sign() {
    return file.resolveSibling("." + stem() + ".open");
  }

  private Path drafts() throws IOException {
    Path folder = file.resolveSibling(ModellerSettings.read(settingsFile).folder());
    Files.createDirectories(folder);
    return folder;
  }

  /** Saves over the file; the earlier state stays beside it under another ending. */
  public void save() throws IOException {
    Files.copy(
        file,
        file.resolveSibling(stem() + ".earlier"),
        StandardCopyOption.REPLACE_EXISTING,
        StandardCopyOption.COPY_ATTRIBUTES);
    write(file, scene.toGlb());
    changed = false;
    lastCopy = clock.instant();
  }

  /** Begins to save and dies when {@code share} of the bytes are written. */
  public void dieWhileSaving(double share) throws IOException {
    Files.copy(
        file,
        file.resolveSibling(stem() + ".earlier"),
        StandardCopyOption.REPLACE_EXISTING,
        StandardCopyOption.COPY_ATTRIBUTES);
    byte[] bytes = scene.toGlb();
    write(file, java.util.Arrays.copyOf(bytes, (int) (bytes.length * share)));
  }

  /** Saves in small pieces with a rest between them, so that it can be killed midway. */
  void saveSlowly(Duration rest) throws IOException, InterruptedException {
    byte[] bytes = scene.toGlb();
    try (OutputStream out = Files.newOutputStream(file)) {
      for (int at = 0; at < bytes.length; at += 1 << 16) {
        out.write(bytes, at, Math.min(1 << 16, bytes.length - at));
        out.flush();
        Thread.sleep(rest.toMillis());
      }
    }
    changed = false;
  }

  /** Makes a copy in the ring if the settings say it is time and something changed since. */
  public boolean copyIfDue() throws IOException {
    ModellerSettings settings = ModellerSettings.read(settingsFile);
    Instant now = clock.instant();
    boolean busy = settings.whenIdle() && now.isBefore(lastTouch.plus(IDLE));
    boolean due =
        settings.enabled() && changed && !busy && !now.isBefore(lastCopy.plus(settings.every()));
    if (due) {
      copyNow();
    }
    return due;
  }

  public void copyNow() throws IOException {
    int slots = Math.max(1, ModellerSettings.read(settingsFile).slots());
    slot = slot % slots + 1;
    Path target = drafts().resolve(stem() + "~" + slot + ".tmp");
    if (ModellerSettings.read(settingsFile).over()) {
      write(target, scene.toGlb());
    } else {
      anew(target);
    }
    lastCopy = clock.instant();
    changed = false;
  }

  private int newestSlot() throws IOException {
    int newest = 0;
    FileTime latest = FileTime.fromMillis(0);
    for (int n = 1; n <= MOST_SLOTS; n++) {
      Path path = drafts().resolve(stem() + "~" + n + ".tmp");
      if (Files.exists(path) && Files.getLastModifiedTime(path).compareTo(latest) > 0) {
        latest = Files.getLastModifiedTime(path);
        newest = n;
      }
    }
    return newest;
  }

  /** The last thing it does when it notices that it is dying; overwrites the one before. */
  public void writeRescue() throws IOException {
    anew(drafts().resolve(stem() + ".rescue"));
  }

  private void anew(Path target) throws IOException {
    Path fresh = target.resolveSibling(target.getFileName() + ".new");
    write(fresh, scene.toGlb());
    Files.move(fresh, target, StandardCopyOption.REPLACE_EXISTING);
  }

  /** Ends in order; the session sign goes, and its copies if the settings say so. */
  public void close() throws IOException {
    if (ModellerSettings.read(settingsFile).clears()) {
      for (int n = 1; n <= MOST_SLOTS; n++) {
        Files.deleteIfExists(drafts().resolve(stem() + "~" + n + ".tmp"));
      }
    }
    Files.deleteIfExists(sign());
  }

  private void write(Path target, byte[] bytes) throws IOException {
    Files.write(target, bytes);
    Files.setLastModifiedTime(target, FileTime.from(clock.instant()));
  }
}
