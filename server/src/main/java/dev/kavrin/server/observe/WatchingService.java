package dev.kavrin.server.observe;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.host.ProcessTable;
import dev.kavrin.core.profile.FileEvent;
import dev.kavrin.core.profile.Lookout;
import dev.kavrin.core.profile.Proposal;
import dev.kavrin.core.profile.Proposer;
import dev.kavrin.core.profile.Running;
import dev.kavrin.core.profile.Seen;
import dev.kavrin.core.settings.SettingsLink;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.program.ProgramAudits;
import jakarta.annotation.Nullable;
import jakarta.annotation.PreDestroy;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/** Watches folders and processes while a person uses a program, to propose what to set. */
@Service
class WatchingService {
  private static final ProcessTable PROCESSES = ProcessTable.ofThisMachine();
  private static final Duration LONGEST = Duration.ofMinutes(60);
  private static final long LEAST_PAUSE_MILLIS = 300;
  private static final int REST_TIMES = 4;
  private static final int AT_ONCE = 8;

  private final Disk disk;
  private final PathGuard guard;
  private final ProgramAudits audits;
  private final Events events;
  private final Proposer proposer;
  private final InstantSource clock;
  private final Map<UUID, Watching> all = new ConcurrentHashMap<>();
  private final ScheduledExecutorService looks =
      Executors.newSingleThreadScheduledExecutor(
          r -> {
            Thread thread = new Thread(r, "watching");
            thread.setDaemon(true);
            return thread;
          });

  WatchingService(
      Disk disk,
      PathGuard guard,
      ProgramAudits audits,
      Events events,
      Settings settings,
      InstantSource clock) {
    this.disk = disk;
    this.guard = guard;
    this.audits = audits;
    this.events = events;
    this.proposer = new Proposer(Path.of(System.getProperty("user.home")), settings.zone());
    this.clock = clock;
  }

  private record Watching(UUID id, List<Path> folders, Lookout lookout, Instant until) {}

  /** What is known so far. */
  record Stand(UUID id, List<Path> folders, boolean goesOn, Seen seen, Proposal proposal) {}

  /**
   * Begins to watch a folder with work and where programs usually leave copies.
   *
   * @param also more folders, under an allowed root
   */
  Stand begin(String work, List<String> also) {
    Path folder = guard.folder(work);
    if (all.size() >= AT_ONCE) {
      all.values().stream()
          .min(Comparator.comparing(Watching::until))
          .ifPresent(oldest -> all.remove(oldest.id()));
    }
    Set<Path> folders = new LinkedHashSet<>(List.of(folder));
    also.forEach(a -> folders.add(guard.folder(a)));
    folders.addAll(usual(folder));
    Watching watching =
        new Watching(
            Ids.next(clock.instant()),
            List.copyOf(folders),
            new Lookout(disk, WatchingService::running, List.copyOf(folders), clock),
            clock.instant().plus(LONGEST));
    all.put(watching.id(), watching);
    looks.schedule(() -> look(watching), LEAST_PAUSE_MILLIS, TimeUnit.MILLISECONDS);
    return stand(watching, null);
  }

  /** One level up, caches and temporary folders, as far as Kavrin may look there. */
  private List<Path> usual(Path work) {
    String home = System.getProperty("user.home");
    return Stream.of(
            work.getParent().toString(),
            home + "/.cache",
            home + "/.config",
            home + "/.local/share",
            System.getProperty("java.io.tmpdir"))
        .map(Path::of)
        .filter(p -> Files.isDirectory(p) && mayLook(p))
        .toList();
  }

  private boolean mayLook(Path folder) {
    try {
      return guard.folder(folder.toString()).equals(folder);
    } catch (ProblemException outside) {
      return false;
    }
  }

  private static List<Running.Process> running() {
    long own = ProcessHandle.current().pid();
    return PROCESSES.now().stream()
        .filter(l -> l.pid() != own)
        .map(l -> new Running.Process(l.pid(), l.arguments(), PROCESSES.open(l.pid())))
        .toList();
  }

  private void look(Watching watching) {
    if (!all.containsKey(watching.id()) || !goesOn(watching)) {
      return;
    }
    long began = System.nanoTime();
    int before = watching.lookout().seen().events().size();
    watching.lookout().look();
    if (watching.lookout().seen().events().size() != before) {
      events.changed("watching");
    }
    long took = TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - began);
    looks.schedule(
        () -> look(watching),
        Math.max(LEAST_PAUSE_MILLIS, took * REST_TIMES),
        TimeUnit.MILLISECONDS);
  }

  private boolean goesOn(Watching watching) {
    return clock.instant().isBefore(watching.until());
  }

  /**
   * @param document the one the person says, or null
   */
  Stand stand(UUID id, @Nullable String document) {
    Watching watching = all.get(id);
    if (watching == null) {
      throw ProblemException.notFound(
          "That watch is over: Kavrin was started again since, or it was ended. Begin another.");
    }
    return stand(
        watching, document == null ? null : guard.inside(watching.folders().get(0), document));
  }

  private Stand stand(Watching watching, @Nullable Path document) {
    Seen seen = watching.lookout().seen();
    return new Stand(
        watching.id(),
        watching.folders(),
        goesOn(watching),
        seen,
        proposer.propose(seen, document));
  }

  void end(UUID id) {
    all.remove(id);
  }

  /** The settings file that the program was started with, if one can be told. */
  Optional<SettingsLink> settings(Stand stand) {
    String words = stand.proposal().sheet().process();
    if (words.isEmpty()) {
      return Optional.empty();
    }
    return stand.seen().processes().stream()
        .filter(r -> String.join(" ", r.arguments()).contains(words))
        .flatMap(r -> r.arguments().stream())
        .filter(a -> a.startsWith("/"))
        .map(Path::of)
        .filter(p -> !p.equals(stand.proposal().document()) && Files.isRegularFile(p))
        .flatMap(p -> audits.proposed(p).stream())
        .findFirst();
  }

  /** The last of what happened, newest first. */
  static List<FileEvent> latest(Seen seen, int most) {
    List<FileEvent> events = new ArrayList<>(seen.events());
    Collections.reverse(events);
    return events.subList(0, Math.min(most, events.size()));
  }

  @PreDestroy
  void stop() {
    looks.shutdownNow();
  }
}
