package dev.kavrin.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.Operation;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.Isolated;

/**
 * Fifty documents of 25 MB that change all the time while eight people browse, in a server with 512
 * MB. Times are printed and decide nothing; that everything is copied, whole and without an error,
 * does.
 */
@Isolated
@Tag("full")
class LoadTest {
  private static final boolean FULL = Boolean.getBoolean("kavrin.full");
  private static final int DOCUMENTS = 50;
  private static final int SIZE = 25_000_000;
  private static final int PEOPLE = 8;
  private static final Duration INTERVAL = Duration.ofSeconds(FULL ? 60 : 30);
  private static final Duration LENGTH = Duration.ofSeconds(FULL ? 600 : 35);

  private final RealDisk disk = new RealDisk();
  private final Map<String, Queue<Duration>> answers = new ConcurrentSkipListMap<>();

  @Test
  void everyChangeIsCopiedInTimeWhilePeopleBrowse() throws Exception {
    try (Service service = Service.tuned()) {
      Path work = Files.createDirectories(service.world().resolve("study"));
      Path keep = service.world().resolve("keep");
      byte[] bytes = new byte[SIZE];
      new Random(1).nextBytes(bytes);
      for (int n = 0; n < DOCUMENTS; n++) {
        bytes[SIZE - 1] = (byte) n;
        Files.write(document(work, n), bytes);
      }
      Owner.give(service.world());
      String link = service.start();
      Api api = new Api(link);
      assertThat(makeProject(api, work, keep).status()).isEqualTo(200);
      Instant end = Instant.now().plus(LENGTH);
      ExecutorService all = Executors.newFixedThreadPool(PEOPLE + 1);
      List<CompletableFuture<Void>> running = new ArrayList<>();
      running.add(CompletableFuture.runAsync(() -> write(work, end), all));
      for (int person = 0; person < PEOPLE; person++) {
        Random random = new Random(person);
        running.add(CompletableFuture.runAsync(() -> browse(api, random, end), all));
      }
      for (CompletableFuture<Void> one : running) {
        one.get(LENGTH.toSeconds() + 60, TimeUnit.SECONDS);
      }
      all.shutdown();
      Map<String, ContentId> live = live(work);
      await()
          .atMost(INTERVAL.multipliedBy(4))
          .pollInterval(Duration.ofSeconds(1))
          .untilAsserted(() -> assertThat(newest(keep)).isEqualTo(live));
      report(keep, service.process().pid());
    }
  }

  private static Path document(Path work, int n) {
    return work.resolve("part-%02d.dat".formatted(n));
  }

  private static Api.Answer makeProject(Api api, Path work, Path keep) throws Exception {
    return api.post(
        "api/projects",
        """
        {"name":"Study","folder":"%s","rule":["*.dat"],"recovery":"%s",
         "plan":{"interval":"%s","quiet":"PT2S","hardLimit":"PT60S","accepted":"PT30M",
          "keep":{"newest":2,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0}}}
        """
            .formatted(work, keep, INTERVAL));
  }

  /** Each document once an interval, evenly spread. */
  private static void write(Path work, Instant end) {
    long pause = INTERVAL.toNanos() / DOCUMENTS;
    try {
      for (int n = 0; Instant.now().isBefore(end); n++) {
        try (RandomAccessFile file =
            new RandomAccessFile(document(work, n % DOCUMENTS).toFile(), "rw")) {
          file.writeInt(n);
        }
        LockSupport.parkNanos(pause);
      }
    } catch (IOException failed) {
      throw new java.io.UncheckedIOException(failed);
    }
  }

  private void browse(Api api, Random random, Instant end) {
    try {
      List<String> pages = new ArrayList<>(List.of("api/overview", "api/folders", "api/session"));
      api.get("api/overview")
          .body()
          .at("/projects/0/documents")
          .forEach(
              d -> {
                pages.add("api/documents/" + d.get("id").asString() + "/versions");
                pages.add("api/documents/" + d.get("id").asString() + "/recovery");
              });
      while (Instant.now().isBefore(end)) {
        boolean overview = random.nextInt(4) == 0;
        String page = overview ? "api/overview" : pages.get(random.nextInt(pages.size()));
        Api.Answer answer = api.get(page);
        assertThat(answer.status()).isEqualTo(200);
        answers
            .computeIfAbsent(page.replaceAll(".*/", ""), k -> new ConcurrentLinkedQueue<>())
            .add(answer.took());
        LockSupport.parkNanos(TimeUnit.MILLISECONDS.toNanos(300 + random.nextInt(700)));
      }
    } catch (IOException | InterruptedException failed) {
      throw new IllegalStateException(failed);
    }
  }

  private List<JournalEntry> journal(Path keep) throws IOException {
    return new Journal(disk, BackupFolder.journalFile(keep)).readAll().entries();
  }

  private Map<String, ContentId> newest(Path keep) throws IOException {
    History history = History.of(journal(keep));
    Map<String, ContentId> found = new HashMap<>();
    history
        .allCaptures()
        .forEach(c -> found.put(Path.of(c.source()).getFileName().toString(), c.content()));
    return found;
  }

  private Map<String, ContentId> live(Path work) throws IOException {
    Map<String, ContentId> found = new HashMap<>();
    for (int n = 0; n < DOCUMENTS; n++) {
      Path file = document(work, n);
      found.put(file.getFileName().toString(), new Publisher(disk, "test").identify(file));
    }
    return found;
  }

  private void report(Path keep, long server) throws IOException {
    List<Duration> late = lateness(keep);
    assertThat(late).isNotEmpty();
    long resident =
        Files.readAllLines(Path.of("/proc", Long.toString(server), "status")).stream()
            .filter(l -> l.startsWith("VmHWM"))
            .mapToLong(l -> Long.parseLong(l.replaceAll("\\D", "")))
            .findFirst()
            .orElse(0);
    System.out.printf(
        "load: %d copies of 25 MB, at most %d ms past their rule (median %d); heap limit 512 MB,"
            + " resident at most %d MB%n",
        late.size(),
        late.get(late.size() - 1).toMillis(),
        late.get(late.size() / 2).toMillis(),
        resident / 1000);
    answers.forEach((page, took) -> report("/" + page, took.stream().sorted().toList()));
    report("all answers", answers.values().stream().flatMap(Queue::stream).sorted().toList());
  }

  private static void report(String page, List<Duration> took) {
    System.out.printf(
        "      %-12s %4d, median %d ms, p95 %d ms, longest %d ms%n",
        page,
        took.size(),
        took.get(took.size() / 2).toMillis(),
        took.get(took.size() * 95 / 100).toMillis(),
        took.get(took.size() - 1).toMillis());
  }

  /**
   * How long after its rule each copy was made, shortest first. The first of each document is left
   * out: all fifty are new at one moment, and are worked off one after another.
   */
  private List<Duration> lateness(Path keep) throws IOException {
    Map<UUID, Instant> changed = new HashMap<>();
    Map<UUID, Instant> wrote = new HashMap<>();
    Set<UUID> held = new HashSet<>();
    List<Duration> late = new ArrayList<>();
    for (JournalEntry entry : journal(keep)) {
      if (entry instanceof JournalEntry.Written e) {
        changed.putIfAbsent(e.document(), e.modified().isBefore(e.at()) ? e.modified() : e.at());
        wrote.put(e.document(), e.modified().plusSeconds(2));
      } else if (entry instanceof JournalEntry.Done e
          && e.operation().planned() instanceof Operation.Backup made
          && changed.containsKey(made.backup().document())) {
        Instant due = changed.remove(made.backup().document()).plus(INTERVAL);
        Instant rested = wrote.get(made.backup().document());
        if (!held.add(made.backup().document())) {
          late.add(Duration.between(due.isAfter(rested) ? due : rested, e.at()));
        }
      }
    }
    return late.stream().sorted().toList();
  }
}
