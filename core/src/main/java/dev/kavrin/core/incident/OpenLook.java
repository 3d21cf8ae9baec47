package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.host.Instance;
import dev.kavrin.core.host.Processes;
import dev.kavrin.core.incident.OpenDocument.State;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.profile.ProgramProfile;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/** Tells which documents instances of a program have open, each with what says so. */
final class OpenLook {
  private final Disk disk;
  private final Processes processes;
  @Nullable private NamePattern lockSeen;

  OpenLook(Disk disk, Processes processes) {
    this.disk = disk;
    this.processes = processes;
  }

  /**
   * What is known beside what the host tells.
   *
   * @param known true for the time of a lock file that an end left behind which was told already
   * @param lockSeen true if a lock file of the program stood once
   * @param mayRead false while no file may be read
   */
  record Notes(Predicate<Instant> known, boolean lockSeen, boolean mayRead) {}

  /**
   * How a document stands.
   *
   * @param instances of its program, all of this machine
   * @param documents paths of all documents of the project
   */
  OpenDocument of(
      ProjectRecord project,
      Path live,
      List<Instance> instances,
      Collection<Path> documents,
      Notes notes)
      throws IOException {
    ProgramProfile program = project.program();
    Optional<Path> lockPath = program.signFor(live);
    Optional<LockFile> lock =
        lockPath.isEmpty()
            ? Optional.empty()
            : LockFile.at(disk, lockPath.get(), program.lockText(), notes.mayRead());
    if (lock.isPresent()) {
      lockSeen = program.sessionSign();
    }
    boolean noneTells = notes.lockSeen() || sawLock(program);
    List<String> evidence = new ArrayList<>();
    Set<Instance.Id> sure = new HashSet<>();
    for (Instance instance : instances) {
      tie(instance, program, live, lock, documents, noneTells)
          .ifPresent(
              words -> {
                evidence.add(words);
                sure.add(instance.id());
              });
    }
    if (!sure.isEmpty()) {
      return new OpenDocument(State.HERE, List.copyOf(evidence), Set.copyOf(sure), true);
    }
    if (lock.isPresent()) {
      return locked(lock.get(), instances, notes.known());
    }
    if (instances.isEmpty()) {
      return withoutInstance(program, live);
    }
    return noneTells
        ? OpenDocument.without(
            State.CLOSED, names(instances) + " runs, and no lock file of it stands")
        : unlocked(program, live, instances, documents);
  }

  /** True if a lock file of that program stood at any look. */
  boolean sawLock(ProgramProfile program) {
    return lockSeen != null && lockSeen.equals(program.sessionSign());
  }

  /** What ties one instance to a document for certain; empty if nothing does. */
  private static Optional<String> tie(
      Instance instance,
      ProgramProfile program,
      Path live,
      Optional<LockFile> lock,
      Collection<Path> documents,
      boolean noneTells) {
    if (instance.open().contains(live)) {
      return Optional.of(instance.words() + " has the file open");
    }
    if (lock.filter(l -> instance.open().contains(l.path())).isPresent()) {
      return Optional.of(instance.words() + " has its lock file open");
    }
    if (lock.filter(l -> l.names(instance)).isPresent()) {
      return Optional.of("its lock file names " + instance.words());
    }
    Optional<Path> copy =
        instance.open().stream().filter(p -> isCopy(program, p, live, documents)).findFirst();
    if (copy.isPresent()) {
      return Optional.of(instance.words() + " has " + copy.get().getFileName() + " of it open");
    }
    boolean mayHaveClosedIt = noneTells && lock.isEmpty();
    return instance.wasStartedWith(live) && !mayHaveClosedIt
        ? Optional.of(instance.words() + " was started with it")
        : Optional.empty();
  }

  private static boolean isCopy(
      ProgramProfile program, Path file, Path live, Collection<Path> documents) {
    return !file.equals(live)
        && program.leftovers().stream()
            .filter(rule -> rule.folder().staysInside())
            .filter(rule -> file.startsWith(live.getParent()))
            .anyMatch(rule -> rule.isOf(file.getFileName().toString(), live, documents));
  }

  private OpenDocument locked(LockFile lock, List<Instance> instances, Predicate<Instant> known) {
    Optional<String> elsewhere = lock.otherMachine(processes.name());
    if (elsewhere.isPresent()) {
      return OpenDocument.without(
          State.ELSEWHERE,
          "its lock file names the machine "
              + elsewhere.get()
              + lock.user().map(user -> " and " + user).orElse(""));
    }
    List<Instance> there = instances.stream().filter(lock::isFrom).toList();
    if (!there.isEmpty()) {
      return perhaps(there, "its lock file stands, and " + names(there) + " runs");
    }
    if (known.test(lock.facts().modified())) {
      return OpenDocument.without(
          State.CLOSED, "its lock file was left behind when its program ended");
    }
    return OpenDocument.without(
        State.UNKNOWN,
        instances.isEmpty()
            ? "its lock file stands, and its program does not run on this machine: it is open"
                + " elsewhere, or was left behind"
            : "its lock file is older than "
                + names(instances)
                + ": left behind, or open elsewhere");
  }

  private OpenDocument withoutInstance(ProgramProfile program, Path live) {
    if (!program.process().isEmpty()) {
      return OpenDocument.without(State.CLOSED, program.name() + " does not run");
    }
    List<Instance> having = processes.having(live);
    return having.isEmpty()
        ? OpenDocument.without(State.UNKNOWN, "no program profile says what to look for")
        : new OpenDocument(
            State.HERE,
            having.stream().map(i -> i.words() + " has the file open").toList(),
            having.stream().map(Instance::id).collect(Collectors.toUnmodifiableSet()),
            true);
  }

  private OpenDocument unlocked(
      ProgramProfile program, Path live, List<Instance> instances, Collection<Path> documents)
      throws IOException {
    Optional<Instant> written = disk.facts(live).filter(FileFacts::isFile).map(FileFacts::modified);
    List<Instance> before =
        those(instances, i -> written.filter(w -> w.isAfter(i.started())).isPresent());
    if (!before.isEmpty() && before.stream().allMatch(i -> i.pid() > 0)) {
      return perhaps(before, "it was written since " + names(before) + " started");
    }
    boolean alone =
        documents.stream().filter(d -> live.getParent().equals(d.getParent())).count() <= 1;
    List<Instance> beside = those(instances, i -> alone && live.getParent().equals(i.folder()));
    return beside.isEmpty()
        ? OpenDocument.without(
            State.UNKNOWN,
            names(instances)
                + (program.sessionSign() == null
                    ? " runs, and nothing tells which documents it has open"
                    : " runs; no lock file of it was ever seen here, so that none tells nothing"))
        : perhaps(beside, names(beside) + " works in its folder, where no other document lies");
  }

  private static List<Instance> those(List<Instance> all, Predicate<Instance> wanted) {
    return all.stream().filter(wanted).toList();
  }

  private static OpenDocument perhaps(List<Instance> instances, String evidence) {
    return new OpenDocument(
        State.HERE,
        List.of(evidence),
        instances.stream().map(Instance::id).collect(Collectors.toUnmodifiableSet()),
        false);
  }

  private static String names(List<Instance> instances) {
    return instances.stream().map(Instance::words).collect(Collectors.joining(", "));
  }
}
