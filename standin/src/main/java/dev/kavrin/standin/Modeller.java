package dev.kavrin.standin;

import java.io.IOException;
import java.io.OutputStream;
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
  private final Path file;
  private final Path settingsFile;
  private final InstantSource clock;
  private final Scene scene;
  private Instant lastCopy;
  private int slot;
  private boolean changed;

  public Modeller(Path file, Path settingsFile, InstantSource clock) throws IOException {
    this.file = file;
    this.settingsFile = settingsFile;
    this.clock = clock;
    this.scene = Scene.open(file);
    this.lastCopy = clock.instant();
    this.slot = newestSlot();
    write(sign(), "open\n".getBytes(java.nio.charset.StandardCharsets.US_ASCII));
  }

  public Scene scene() {
    return scene;
  }

  /** Something in the scene was changed. */
  public void touched() {
    changed = true;
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
    boolean due =
        settings.enabled() && changed && !clock.instant().isBefore(lastCopy.plus(settings.every()));
    if (due) {
      copyNow();
    }
    return due;
  }

  public void copyNow() throws IOException {
    int slots = Math.max(1, ModellerSettings.read(settingsFile).slots());
    slot = slot % slots + 1;
    Path target = drafts().resolve(stem() + "~" + slot + ".tmp");
    Path fresh = target.resolveSibling(target.getFileName() + ".new");
    write(fresh, scene.toGlb());
    Files.move(fresh, target, StandardCopyOption.REPLACE_EXISTING);
    lastCopy = clock.instant();
    changed = false;
  }

  private int newestSlot() throws IOException {
    int newest = 0;
    FileTime latest = FileTime.fromMillis(0);
    for (int n = 1; n <= 99; n++) {
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
    Path target = drafts().resolve(stem() + ".rescue");
    Path fresh = target.resolveSibling(target.getFileName() + ".new");
    write(fresh, scene.toGlb());
    Files.move(fresh, target, StandardCopyOption.REPLACE_EXISTING);
  }

  /** Ends in order; the session sign goes. */
  public void close() throws IOException {
    Files.deleteIfExists(sign());
  }

  private void write(Path target, byte[] bytes) throws IOException {
    Files.write(target, bytes);
    Files.setLastModifiedTime(target, FileTime.from(clock.instant()));
  }
}
