package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.incident.Leftovers.Leftover;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.units.Clockwork;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;

/**
 * Sees what appears or changes where programs write aside. What was written before it began to look
 * is not new, and neither is a file that only got another name. A folder that is slow to list is
 * looked at the more rarely.
 */
final class WrittenAside {
  /** What a program still writes on its way out. */
  private static final Duration GOING = Duration.ofSeconds(10);

  /** Clocks of shares differ, and some count in two seconds. */
  private static final Duration COARSEST_TIME = Duration.ofSeconds(2);

  /** Looking takes a twentieth of the time at most. */
  private static final int SHARE = 20;

  private static final Duration LOOKS_APART = Duration.ofSeconds(1);

  private final Disk disk;
  private final Clockwork clock;
  private final Map<Path, Seen> known = new HashMap<>();
  private final Map<Object, Duration> notBefore = new HashMap<>();
  private Map<Path, List<Place>> places = Map.of();
  private final Instant begun;
  private boolean looked;
  @Nullable private Instant lastRan;

  WrittenAside(Disk disk, Clockwork clock) {
    this.disk = disk;
    this.clock = clock;
    this.begun = clock.instant();
  }

  /** Copies of a document by one rule of its program lie there. */
  private record Place(DocumentSet document, Path live, ProgramProfile.Leftover rule) {}

  private record Seen(FileFacts facts, boolean rested) {}

  /**
   * A content that was not there at the last look.
   *
   * @param inPlace true if it was written over another that had come to rest in the same file
   */
  record New(Leftover leftover, boolean inPlace) {}

  /** What stands at the last look at each folder, and what of it is new. */
  record Look(Map<Path, Seen> there, List<New> appeared) {
    /** Null if nothing stands there. */
    @Nullable
    FileFacts at(Path file) {
      Seen seen = there.get(file);
      return seen == null ? null : seen.facts();
    }
  }

  /**
   * True at the first look, while the program runs, and for a while after it ended.
   *
   * @param runs false while the program cannot write
   */
  boolean isToBeLookedAt(boolean runs) {
    Instant now = clock.instant();
    lastRan = runs ? now : lastRan;
    return !looked || lastRan != null && now.isBefore(lastRan.plus(GOING));
  }

  /** What was there at the last look, none of it new any more. */
  Look lastLook() {
    return new Look(known, List.of());
  }

  /**
   * @param live paths of all documents whose copies may lie in the same folders
   */
  Look look(ProjectRecord project, List<DocumentSet> documents, Collection<Path> live) {
    List<New> appeared = new ArrayList<>();
    places = sparingly(project.id(), places, () -> places(project, documents));
    Set<FileFacts> before = known.values().stream().map(Seen::facts).collect(Collectors.toSet());
    for (Path folder : places.keySet()) {
      sparingly(folder, null, () -> look(folder, live, before, appeared));
    }
    looked = true;
    return new Look(known, appeared);
  }

  private <T> T sparingly(Object what, @Nullable T otherwise, Supplier<T> work) {
    Duration start = clock.running();
    if (start.compareTo(notBefore.getOrDefault(what, start)) < 0) {
      return otherwise;
    }
    T done = work.get();
    Duration end = clock.running();
    notBefore.put(what, end.plus(end.minus(start).multipliedBy(SHARE)).minus(LOOKS_APART));
    return done;
  }

  private Map<Path, List<Place>> places(ProjectRecord project, List<DocumentSet> documents) {
    Map<Path, List<Place>> found = new HashMap<>();
    for (DocumentSet document : documents) {
      Path live = Path.of(project.folder()).resolve(document.path());
      for (ProgramProfile.Leftover rule : project.program().leftovers()) {
        for (Path folder : rule.folders(disk, live)) {
          found
              .computeIfAbsent(folder, f -> new ArrayList<>())
              .add(new Place(document, live, rule));
        }
      }
    }
    return found;
  }

  /** Nothing is said of a folder that is there and cannot be listed: what it held is not gone. */
  private Void look(Path folder, Collection<Path> live, Set<FileFacts> before, List<New> appeared) {
    Map<Path, FileFacts> there = new HashMap<>();
    try {
      for (Path file : disk.list(folder)) {
        FileFacts facts = Leftovers.facts(disk, file);
        if (facts != null && facts.size() > 0) {
          there.put(file, facts);
        }
      }
    } catch (NoSuchFileException gone) {
      there.clear();
    } catch (IOException unanswered) {
      return null;
    }
    known.keySet().removeIf(f -> folder.equals(f.getParent()) && !there.containsKey(f));
    there.forEach(
        (file, facts) -> {
          Seen was = known.get(file);
          boolean same = was != null && was.facts().sameAs(facts);
          known.put(file, new Seen(facts, same));
          if (!same && isNew(was, facts) && !before.contains(facts)) {
            boolean inPlace = was != null && was.rested() && was.facts().key().equals(facts.key());
            of(folder, file, facts, live).map(l -> new New(l, inPlace)).ifPresent(appeared::add);
          }
        });
    return null;
  }

  /**
   * What was written before all this began lay there already, even in a folder found since. At the
   * first look nobody knows when a file with a time to come was written.
   */
  private boolean isNew(@Nullable Seen was, FileFacts facts) {
    Instant written = facts.modified();
    boolean toCome = !looked && written.isAfter(clock.instant().plus(COARSEST_TIME));
    return was != null || !toCome && !written.isBefore(begun.minus(COARSEST_TIME));
  }

  private Optional<Leftover> of(Path folder, Path file, FileFacts facts, Collection<Path> live) {
    String name = file.getFileName().toString();
    return places.get(folder).stream()
        .filter(p -> !live.contains(file) && p.rule().isOf(name, p.live(), live))
        .findFirst()
        .map(
            p ->
                new Leftover(p.document().id(), p.document().path(), file, p.rule().kind(), facts));
  }
}
