package dev.kavrin.core.profile;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.FolderMarker;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Looks at folders and processes again and again and writes down what changed. Reads names and
 * facts only, never contents; links are not followed. Calls are serialised.
 */
public final class Lookout {
  private static final int MOST = 20_000;
  private static final int DEEPEST = 8;

  private final Disk disk;
  private final Running running;
  private final List<Path> folders;
  private final InstantSource clock;
  private final Instant from;
  private final Map<Path, FileFacts> before;
  private final List<FileEvent> events = new ArrayList<>();
  private final Map<Long, Ran> processes = new LinkedHashMap<>();
  private Map<Path, FileFacts> last;
  private Instant to;
  private boolean cut;

  /**
   * @param folders to be watched with all below them, the one with the work first
   */
  public Lookout(Disk disk, Running running, List<Path> folders, InstantSource clock) {
    this.disk = disk;
    this.running = running;
    this.folders = List.copyOf(folders);
    this.clock = clock;
    this.from = clock.instant();
    this.to = from;
    this.before = Map.copyOf(files());
    this.last = before;
    running
        .now()
        .forEach(p -> processes.put(p.pid(), new Ran(p.arguments(), p.open(), null, null)));
  }

  public synchronized void look() {
    Instant now = clock.instant();
    processes(now);
    Map<Path, FileFacts> files = files();
    files.forEach(
        (path, facts) -> {
          FileFacts known = last.get(path);
          if (known == null) {
            events.add(new FileEvent(now, path, FileEvent.Kind.APPEARED, facts));
          } else if (!known.sameAs(facts)) {
            events.add(new FileEvent(now, path, FileEvent.Kind.WRITTEN, facts));
          }
        });
    last.forEach(
        (path, facts) -> {
          if (!files.containsKey(path)) {
            events.add(new FileEvent(now, path, FileEvent.Kind.GONE, facts));
          }
        });
    last = files;
    to = now;
  }

  private void processes(Instant now) {
    Set<Long> alive = new HashSet<>();
    for (Running.Process p : running.now()) {
      alive.add(p.pid());
      processes.merge(
          p.pid(),
          new Ran(p.arguments(), p.open(), now, null),
          (known, news) -> {
            Set<Path> open = new HashSet<>(known.open());
            open.addAll(news.open());
            return new Ran(news.arguments(), open, known.from(), null);
          });
    }
    processes.replaceAll(
        (pid, ran) ->
            alive.contains(pid) || ran.to() != null
                ? ran
                : new Ran(ran.arguments(), ran.open(), ran.from(), now));
  }

  public synchronized Seen seen() {
    return new Seen(
        folders.get(0),
        from,
        to,
        before,
        List.copyOf(events),
        List.copyOf(processes.values()),
        cut);
  }

  private Map<Path, FileFacts> files() {
    Map<Path, FileFacts> found = new HashMap<>();
    Set<String> entered = new HashSet<>();
    for (Path root : folders) {
      Deque<Path> open = new ArrayDeque<>(List.of(root));
      while (!open.isEmpty()) {
        Path folder = open.pop();
        for (Path path : listed(folder)) {
          FileFacts facts = facts(path);
          if (facts == null || path.getFileName().toString().equals(FolderMarker.FOLDER)) {
            continue;
          } else if (facts.isFile()) {
            if (found.size() >= MOST) {
              cut = true;
              return found;
            }
            found.put(path, facts);
          } else if (facts.isFolder()
              && path.getNameCount() - root.getNameCount() <= DEEPEST
              && entered.add(facts.key())) {
            open.push(path);
          }
        }
      }
    }
    return found;
  }

  private List<Path> listed(Path folder) {
    try {
      return disk.list(folder);
    } catch (IOException closed) {
      return List.of();
    }
  }

  private FileFacts facts(Path path) {
    try {
      return disk.facts(path).orElse(null);
    } catch (IOException vanished) {
      return null;
    }
  }
}
