package dev.kavrin.core.profile;

import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.NamePattern;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;

/** What a program does to the files around one document. */
final class Habits {
  /** Two things noticed within this time happened together. */
  private static final Duration TOGETHER = Duration.ofMillis(2500);

  private static final long SIGN_AT_MOST = 4096;
  private static final Pattern RESCUE_WORDS =
      Pattern.compile("(?i)(rescue|recover|crash|emergency|panic)");
  private static final Pattern AUTO_WORDS = Pattern.compile("(?i)(auto|draft|te?mp|cache)");
  private static final Pattern SIGN_WORDS =
      Pattern.compile("(?i)(lock|lck|open|busy|pid|session|inuse|in-use)");

  private final Seen seen;
  private final Path document;
  private final List<Instant> saves;
  private final long size;
  private final Map<Path, Copy> copies = new TreeMap<>();
  @Nullable private Sign sign;

  /**
   * A file that holds an earlier or unsaved state.
   *
   * @param writes when it was seen to be written
   */
  record Copy(CopyKind kind, List<Instant> writes, boolean sure) {}

  /**
   * A file that stands while the document is open.
   *
   * @param gone true if it was seen to go
   */
  record Sign(Path path, @Nullable Instant from, boolean gone) {}

  Habits(Seen seen, Path document) {
    this.seen = seen;
    this.document = document;
    this.saves = seen.of(document).stream().filter(FileEvent::wrote).map(FileEvent::at).toList();
    this.size = sizes().stream().mapToLong(Long::longValue).max().orElse(0);
    Set<Path> all = new TreeSet<>(seen.before().keySet());
    seen.events().forEach(e -> all.add(e.path()));
    for (Path path : all) {
      if (!path.equals(document) && isAbout(path)) {
        judge(path);
      }
    }
  }

  private List<Long> sizes() {
    List<Long> sizes = new ArrayList<>();
    FileFacts before = seen.before().get(document);
    if (before != null) {
      sizes.add(before.size());
    }
    seen.of(document).forEach(e -> sizes.add(e.facts().size()));
    return sizes;
  }

  Map<Path, Copy> copies() {
    return copies;
  }

  /**
   * Files of much the same size that were written meanwhile, outside the work, under no name of
   * its.
   */
  List<Path> nameless() {
    return seen.events().stream()
        .filter(FileEvent::wrote)
        .filter(e -> e.facts().size() * 5 > size && e.facts().size() < size * 5)
        .map(FileEvent::path)
        .filter(p -> !p.equals(document) && !isAbout(p))
        .filter(p -> !p.startsWith(seen.work()) || !isLinked(p))
        .distinct()
        .toList();
  }

  Optional<Sign> sign() {
    return Optional.ofNullable(sign);
  }

  List<Instant> saves() {
    return saves;
  }

  /** True if the name, or that of a folder on the way, holds the document's. */
  private boolean isAbout(Path path) {
    String stem = FileName.of(document.getFileName().toString()).stem();
    if (path.getFileName().toString().contains(stem)) {
      return true;
    }
    Path folder = path.getParent();
    return folder != null
        && folder.getFileName() != null
        && folder.getFileName().toString().contains(stem)
        && !document.startsWith(folder);
  }

  private void judge(Path path) {
    List<FileEvent> events = seen.of(path);
    if (events.isEmpty()) {
      fromNames(path, seen.before().get(path));
    } else if (isSign(path, events)) {
      boolean gone = events.get(events.size() - 1).kind() == FileEvent.Kind.GONE;
      boolean better = sign == null || gone && !sign.gone();
      if (better && document.getParent().equals(path.getParent())) {
        sign =
            new Sign(
                path,
                events.get(0).kind() == FileEvent.Kind.APPEARED ? events.get(0).at() : null,
                gone);
      }
    } else if (!isPassing(events)) {
      List<FileEvent> writes = events.stream().filter(FileEvent::wrote).toList();
      if (!writes.isEmpty() && (!isSmall(events) || saves.isEmpty())) {
        List<Instant> moments = writes.stream().map(FileEvent::at).toList();
        copies.put(path, new Copy(kind(path, writes), moments, true));
      }
    }
  }

  private boolean isSmall(Collection<FileEvent> events) {
    long largest = events.stream().mapToLong(e -> e.facts().size()).max().orElse(0);
    return largest <= SIGN_AT_MOST && largest * 8 < size;
  }

  /** Small, there before the first write and gone, if at all, after the last. */
  private boolean isSign(Path path, List<FileEvent> events) {
    boolean stoodBefore = seen.before().containsKey(path);
    if (!isSmall(events) || events.get(0).kind() == FileEvent.Kind.WRITTEN) {
      return false;
    }
    Instant first = saves.isEmpty() ? seen.to() : saves.get(0);
    Instant last = saves.isEmpty() ? seen.from() : saves.get(saves.size() - 1);
    FileEvent end = events.get(events.size() - 1);
    boolean early = stoodBefore || !events.get(0).at().isAfter(first);
    boolean late = end.kind() != FileEvent.Kind.GONE || !end.at().isBefore(last);
    return early && late && (stoodBefore || !isPassing(events));
  }

  /** Came and went within moments: a step of a save. */
  private boolean isPassing(List<FileEvent> events) {
    FileEvent first = events.get(0);
    FileEvent last = events.get(events.size() - 1);
    return first.kind() == FileEvent.Kind.APPEARED
        && last.kind() == FileEvent.Kind.GONE
        && events.size() == 2
        && !last.at().isAfter(first.at().plus(TOGETHER))
        && !(isSmall(events) && stoodByAnAutosave(first.at(), last.at()));
  }

  /** A program may be open for moments only; it made an autosave in them, which is no save. */
  private boolean stoodByAnAutosave(Instant from, Instant to) {
    return seen.events().stream()
        .filter(e -> e.wrote() && e.at().isAfter(from) && e.at().isBefore(to))
        .anyMatch(
            e ->
                !e.path().equals(document)
                    && isAbout(e.path())
                    && saves.stream().noneMatch(e.at()::equals)
                    && !keepsWhatWasSavedOver(e));
  }

  private CopyKind kind(Path path, List<FileEvent> writes) {
    boolean withSaves = writes.stream().allMatch(this::keepsWhatWasSavedOver);
    if (RESCUE_WORDS.matcher(path.getFileName().toString()).find()) {
      return CopyKind.RESCUE;
    }
    return withSaves ? CopyKind.KEPT_BY_SAVE : CopyKind.AUTOSAVE;
  }

  /** Written in the same look as a save, or near one and as large as the file was before it. */
  private boolean keepsWhatWasSavedOver(FileEvent write) {
    List<Long> sizes = sizes();
    for (int i = 0; i < saves.size(); i++) {
      Duration apart = Duration.between(saves.get(i), write.at()).abs();
      if (apart.isZero()
          || apart.compareTo(TOGETHER) <= 0
              && sizes.subList(0, sizes.size() - saves.size() + i).contains(write.facts().size())) {
        return true;
      }
    }
    return false;
  }

  /** Nothing was seen to happen to it: its name and place must tell. */
  private void fromNames(Path path, FileFacts facts) {
    String name = path.getFileName().toString();
    boolean beside = path.getParent().equals(document.getParent());
    if (beside && isLeftSign(name, facts)) {
      if (sign == null) {
        sign = new Sign(path, null, false);
      }
    } else if (RESCUE_WORDS.matcher(name).find()) {
      copies.put(path, new Copy(CopyKind.RESCUE, List.of(), false));
    } else if (!beside && !isLinked(path) || AUTO_WORDS.matcher(name).find()) {
      copies.put(path, new Copy(CopyKind.AUTOSAVE, List.of(), false));
    } else if (beside && isEarlier(name)) {
      copies.put(path, new Copy(CopyKind.KEPT_BY_SAVE, List.of(), false));
    }
  }

  private boolean isLeftSign(String name, FileFacts facts) {
    return facts.size() <= SIGN_AT_MOST
        && facts.size() * 8 < size
        && (name.startsWith(".") || SIGN_WORDS.matcher(name).find());
  }

  private static boolean isEarlier(String name) {
    return DocumentGuess.isCopy(name) || NamePattern.WRITTEN_TIME.matcher(name).find();
  }

  /** A file of the same kind elsewhere in the work folder is more likely another document. */
  private boolean isLinked(Path path) {
    Path work = seen.work();
    if (!path.startsWith(work)) {
      return false;
    }
    for (Path step : work.relativize(path.getParent())) {
      String name = step.toString();
      if (name.startsWith(".") || AUTO_WORDS.matcher(name).find() || DocumentGuess.isCopy(name)) {
        return false;
      }
    }
    return true;
  }
}
