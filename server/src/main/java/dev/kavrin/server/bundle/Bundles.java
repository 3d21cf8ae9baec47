package dev.kavrin.server.bundle;

import dev.kavrin.core.bundle.BagCheck;
import dev.kavrin.core.bundle.BagReport;
import dev.kavrin.core.bundle.BagWriter;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.store.NoRoomException;
import dev.kavrin.server.bundle.Packing.Choice;
import dev.kavrin.server.bundle.Packing.Packed;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReference;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/** Packs bundles, one at a time, and reads them back. */
@Service
class Bundles implements DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(Bundles.class);

  private final Packing packing;
  private final PathGuard guard;
  private final Disk disk;
  private final BagWriter writer;
  private final Events events;
  private final InstantSource clock;
  private final ExecutorService one = Executors.newSingleThreadExecutor();
  private final AtomicReference<Job> latest = new AtomicReference<>();

  Bundles(
      Packing packing,
      PathGuard guard,
      Disk disk,
      Publisher publisher,
      Events events,
      InstantSource clock) {
    this.packing = packing;
    this.guard = guard;
    this.disk = disk;
    this.writer = new BagWriter(disk, publisher);
    this.events = events;
    this.clock = clock;
  }

  /** How far a bundle is. */
  enum Stage {
    RUNNING,
    DONE,
    CANCELLED,
    FAILED
  }

  /**
   * @param problem why it failed, in words; null if it did not
   */
  record BundleView(
      String folder,
      Instant started,
      long done,
      long bytes,
      Stage stage,
      @Nullable String problem) {}

  private static final class Job {
    private final Path folder;
    private final Instant started;
    private final long bytes;
    private final AtomicLong done = new AtomicLong();
    private volatile Stage stage = Stage.RUNNING;
    private volatile boolean cancelled;
    private volatile String problem;

    Job(Path folder, Instant started, long bytes) {
      this.folder = folder;
      this.started = started;
      this.bytes = bytes;
    }

    BundleView view() {
      return new BundleView(folder.toString(), started, done.get(), bytes, stage, problem);
    }
  }

  /** What is said in the bundle itself. */
  record Words(String name, String note, String who) {}

  /**
   * Begins to pack; the same order into the same folder goes on where it stopped.
   *
   * @throws ProblemException another one is being packed
   * @throws NoRoomException too little room
   */
  synchronized BundleView pack(List<Choice> choices, String target, Words words)
      throws IOException {
    Job before = latest.get();
    if (before != null && before.stage == Stage.RUNNING) {
      throw ProblemException.conflict("busy", "Another bundle is being packed.");
    }
    Path folder = guard.folderToMake(target);
    Packed packed = packing.of(choices);
    disk.makeFolders(folder);
    long free = disk.room(folder);
    if (free < packed.bytes()) {
      throw new NoRoomException(folder, packed.bytes(), free);
    }
    Job job = new Job(folder, clock.instant(), packed.bytes());
    latest.set(job);
    BagWriter.Order order = order(packed, words);
    one.submit(() -> run(job, order));
    return job.view();
  }

  private void run(Job job, BagWriter.Order order) {
    try {
      writer.write(
          order,
          job.folder,
          bytes -> {
            job.done.addAndGet(bytes);
            if (job.cancelled) {
              throw new Cancelled();
            }
          });
      job.stage = Stage.DONE;
    } catch (Cancelled stopped) {
      job.stage = Stage.CANCELLED;
    } catch (IOException | RuntimeException failed) {
      LOG.warn("The bundle {} was not finished: {}", job.folder, failed.getMessage());
      job.problem = failed.getMessage();
      job.stage = Stage.FAILED;
    }
    events.changed("bundles");
  }

  private static final class Cancelled extends RuntimeException {
    private static final long serialVersionUID = 1L;
  }

  private BagWriter.Order order(Packed packed, Words words) {
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    Map<String, String> info = new LinkedHashMap<>();
    info.put("Contact-Name", words.who());
    info.put("External-Description", words.name());
    info.put("Bag-Software-Agent", "Kavrin");
    Map<String, Object> contents = new LinkedHashMap<>();
    contents.put("name", words.name());
    contents.put("files", packed.files());
    contents.put("missing", packed.missing());
    return new BagWriter.Order(
        packed.items(),
        Map.of(
            "README.txt",
            readme(packed, words),
            "contents.json",
            JsonMapper.shared().writerWithDefaultPrettyPrinter().writeValueAsString(contents)
                + "\n"),
        info,
        today);
  }

  private static String readme(Packed packed, Words words) {
    StringBuilder text = new StringBuilder(words.name()).append("\n\n");
    if (!words.note().isBlank()) {
      text.append(words.note().strip()).append("\n\n");
    }
    text.append("Open first, in the folder data:\n");
    packed.files().stream()
        .filter(f -> f.kind().equals("document"))
        .forEach(f -> text.append("  ").append(f.path()).append('\n'));
    text.append("\nEverything they lean on lies beside them; paths are relative.\n");
    packed
        .missing()
        .forEach(
            (document, links) ->
                text.append("Missing when this was packed, for ")
                    .append(document)
                    .append(": ")
                    .append(String.join(", ", links))
                    .append('\n'));
    return text.append(
            "\nThis is a bag by RFC 8493: manifest-sha256.txt has the digest of each file.\n")
        .toString();
  }

  @Nullable
  BundleView latest() {
    Job job = latest.get();
    return job == null ? null : job.view();
  }

  void cancel() {
    Job job = latest.get();
    if (job != null) {
      job.cancelled = true;
    }
  }

  BagReport check(String folder) throws IOException {
    return new BagCheck(disk).of(guard.folder(folder));
  }

  @Override
  public void destroy() {
    cancel();
    one.shutdown();
  }
}
