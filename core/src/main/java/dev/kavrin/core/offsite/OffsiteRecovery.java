package dev.kavrin.core.offsite;

import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.JournalEntry.ProjectSet;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.lane.Alone;
import dev.kavrin.core.lane.Several;
import dev.kavrin.core.replica.BackupArrival;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;

/** Brings projects back from a store alone, into a backup folder of this machine. */
public final class OffsiteRecovery {
  private final Disk disk;
  private final Publisher publisher;
  private final InstantSource clock;

  public OffsiteRecovery(Disk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.clock = clock;
  }

  /**
   * A project as a store has it.
   *
   * @param begin what all its names there begin with
   * @param newest when the newest work there was done; null if there are no copies
   */
  public record Found(
      String begin,
      ProjectRecord project,
      List<DocumentSet> documents,
      List<BackupRecord> copies,
      Instant newest) {
    public long bytes() {
      return copies.stream().mapToLong(b -> b.content().length()).sum();
    }
  }

  /** Projects that a store has, by name. */
  public static List<Found> projects(Store store) throws IOException {
    List<Found> found = new ArrayList<>();
    for (String folder : store.folders("")) {
      String begin = folder + "/";
      History there = OffsiteJournal.read(store, begin).history();
      there.projects().stream().findFirst().ifPresent(p -> found.add(found(begin, p, there)));
    }
    return found.stream().sorted(Comparator.comparing(f -> f.project().name())).toList();
  }

  private static Found found(String begin, ProjectRecord project, History there) {
    List<BackupRecord> copies = copies(project, there, null);
    return new Found(
        begin,
        project,
        there.documents(project.id()),
        copies,
        copies.stream().map(BackupRecord::workTo).max(Comparator.naturalOrder()).orElse(null));
  }

  /**
   * @param until leaves out newer work; null for all
   */
  private static List<BackupRecord> copies(ProjectRecord project, History there, Instant until) {
    List<BackupRecord> copies = new ArrayList<>();
    for (DocumentSet document : there.documents(project.id())) {
      Set<String> lost =
          new Elsewhere(there)
              .copies(document.id()).stream()
                  .filter(c -> !c.counts())
                  .map(CopyElsewhere::object)
                  .collect(Collectors.toSet());
      there.captures(document.id()).stream()
          .filter(b -> !lost.contains(b.path()))
          .filter(b -> until == null || !b.workTo().isAfter(until))
          .forEach(copies::add);
    }
    copies.sort(Comparator.comparing(BackupRecord::workTo).reversed());
    return copies;
  }

  /** What came of it. */
  public record Outcome(List<BackupRecord> brought, List<String> failed) {}

  /**
   * Takes a project's journal and its copies into a backup folder, newest work first; what is there
   * already is not fetched again, so that it can be stopped and begun anew.
   *
   * @param as the project as it is to be on this machine
   * @param until leaves out newer work; null for all
   * @param told each copy before it is fetched; throwing ends it between two
   */
  public Outcome bring(
      Store store,
      String begin,
      BackupFolder to,
      ProjectRecord as,
      Instant until,
      Consumer<BackupRecord> told)
      throws IOException {
    OffsiteJournal journal = OffsiteJournal.read(store, begin);
    History there = journal.history();
    take(there, to, as);
    List<BackupRecord> brought = new ArrayList<>();
    List<String> failed = new ArrayList<>();
    for (String gone : journal.lacking()) {
      failed.add(gone + " is gone from the store; what only it told of does not come back");
    }
    Alone documents = new Alone();
    Several.each(
        store.atOnce(),
        copies(as, there, until),
        copy ->
            documents.run(
                copy.document(),
                () -> {
                  if (isHere(to.history(), copy)) {
                    return;
                  }
                  synchronized (brought) {
                    told.accept(copy);
                  }
                  String lost = fetched(store, begin, to, as, there, copy);
                  synchronized (brought) {
                    if (lost == null) {
                      brought.add(copy);
                    } else {
                      failed.add(lost);
                    }
                  }
                }));
    return new Outcome(brought, failed);
  }

  /**
   * Takes one copy into a backup folder; what is there already is not fetched again.
   *
   * @param object its name below the project's beginning
   * @throws NoSuchFileException the store's journal tells of no such copy
   * @throws IOException it is not what was sent, or the folder cannot take it; nothing was changed
   */
  public BackupRecord bringOne(
      Store store, String begin, BackupFolder to, ProjectRecord as, String object)
      throws IOException {
    History there = OffsiteJournal.read(store, begin).history();
    BackupRecord copy =
        there.allCaptures().stream()
            .filter(b -> b.path().equals(object))
            .findFirst()
            .orElseThrow(() -> new NoSuchFileException(object));
    if (!isHere(to.history(), copy)) {
      fetch(store, begin, to, as, there, copy);
    }
    return copy;
  }

  private static boolean isHere(History here, BackupRecord copy) {
    return here.captures(copy.document()).stream()
        .anyMatch(b -> b.content().equals(copy.content()) && !here.isFaulty(b.path()));
  }

  /**
   * Why a copy did not come; null if it did.
   *
   * @throws IOException the folder here is away, so that none can come
   */
  private String fetched(
      Store store,
      String begin,
      BackupFolder to,
      ProjectRecord as,
      History there,
      BackupRecord copy)
      throws IOException {
    try {
      fetch(store, begin, to, as, there, copy);
      return null;
    } catch (IOException lost) {
      to.requireHere();
      return copy.path() + ": " + lost.getMessage();
    }
  }

  private void take(History there, BackupFolder to, ProjectRecord as) throws IOException {
    if (to.history().project(as.id()).isEmpty()) {
      to.record(new ProjectSet(clock.instant(), "brought back", as));
    }
    to.record(
        there.facts(as.id()).stream()
            .filter(fact -> !(fact instanceof ProjectSet) && to.history().isNews(fact))
            .toList());
  }

  private void fetch(
      Store store,
      String begin,
      BackupFolder to,
      ProjectRecord project,
      History there,
      BackupRecord copy)
      throws IOException {
    Path folder = Path.of(copy.path().substring("files/".length())).getParent();
    String name =
        copy.role() == null
            ? Path.of(document(there, copy).path()).getFileName().toString()
            : Path.of(copy.source()).getFileName().toString();
    String path = folder == null ? name : folder.resolve(name).toString();
    try (InputStream in = store.get(begin + copy.path())) {
      new BackupArrival(disk, publisher, clock)
          .take(to, project, path, copy, sink -> Copying.copy(in, sink));
    }
  }

  private static DocumentSet document(History there, BackupRecord copy) throws IOException {
    Optional<DocumentSet> document = there.document(copy.document());
    return document.orElseThrow(
        () -> new IOException("The store's journal does not know what " + copy.path() + " is of"));
  }
}
