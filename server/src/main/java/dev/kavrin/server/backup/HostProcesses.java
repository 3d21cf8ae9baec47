package dev.kavrin.server.backup;

import dev.kavrin.core.host.Instance;
import dev.kavrin.core.host.ProcessTable;
import dev.kavrin.core.host.Processes;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;

/**
 * The processes of this machine, without Kavrin's own. They are looked at no more than once a half
 * second, and what all of them have open no more than once in five.
 */
final class HostProcesses implements Processes {
  private static final long FRESH_NANOS = 500_000_000;
  private static final long OPEN_FRESH_NANOS = 5_000_000_000L;

  private final ProcessTable table = ProcessTable.ofThisMachine();
  private final Fresh<List<ProcessTable.Line>> lines = new Fresh<>(FRESH_NANOS);
  private final Fresh<Map<Path, List<ProcessTable.Line>>> open = new Fresh<>(OPEN_FRESH_NANOS);
  private final Fresh<Map<String, List<Instance>>> named = new Fresh<>(FRESH_NANOS);

  @Override
  public boolean runs(String words) {
    return !instances(words).isEmpty();
  }

  @Override
  public synchronized List<Instance> instances(String words) {
    if (words == null || words.isBlank()) {
      return List.of();
    }
    return named
        .get(HashMap::new)
        .computeIfAbsent(
            words,
            w ->
                withoutCopies(
                        lines.get(this::look).stream()
                            .filter(l -> String.join(" ", l.arguments()).contains(w))
                            .toList())
                    .flatMap(l -> instance(l).stream())
                    .toList());
  }

  @Override
  public synchronized List<Instance> having(Path file) {
    return withoutCopies(open.get(this::openFiles).getOrDefault(file, List.of()))
        .flatMap(l -> instance(l).stream())
        .toList();
  }

  @Override
  public String boot() {
    return table.boot();
  }

  @Override
  public String name() {
    return table.name();
  }

  /**
   * A process that starts another is two of the same for a moment, until the new one becomes what
   * it is to be (fork(2), execve(2)); some stay so. The copy is no instance while the first runs.
   */
  private static Stream<ProcessTable.Line> withoutCopies(List<ProcessTable.Line> lines) {
    Map<Long, List<String>> arguments = new HashMap<>();
    lines.forEach(line -> arguments.put(line.pid(), line.arguments()));
    return lines.stream()
        .filter(
            line ->
                ProcessHandle.of(line.pid())
                    .flatMap(ProcessHandle::parent)
                    .map(parent -> arguments.get(parent.pid()))
                    .filter(line.arguments()::equals)
                    .isEmpty());
  }

  private List<ProcessTable.Line> look() {
    long own = ProcessHandle.current().pid();
    return table.now().stream().filter(l -> l.pid() != own).toList();
  }

  private Map<Path, List<ProcessTable.Line>> openFiles() {
    Map<Path, List<ProcessTable.Line>> all = new HashMap<>();
    for (ProcessTable.Line line : lines.get(this::look)) {
      if (!isOurs(line.pid())) {
        table
            .open(line.pid())
            .forEach(file -> all.computeIfAbsent(file, f -> new ArrayList<>()).add(line));
      }
    }
    return all;
  }

  /** Readers that Kavrin started have files open, too. */
  private static boolean isOurs(long pid) {
    return ProcessHandle.of(pid)
        .flatMap(ProcessHandle::parent)
        .filter(ProcessHandle.current()::equals)
        .isPresent();
  }

  /** Empty if it ended meanwhile. */
  private Optional<Instance> instance(ProcessTable.Line line) {
    return ProcessHandle.of(line.pid())
        .map(
            process ->
                new Instance(
                    line.pid(),
                    process.info().user().orElse(""),
                    process.info().startInstant().orElse(Instant.EPOCH),
                    line.arguments(),
                    table.folder(line.pid()),
                    table.program(line.pid()),
                    table.open(line.pid()),
                    process.info().totalCpuDuration().orElse(null)));
  }

  /** Something that is found out anew once it is too old. */
  private static final class Fresh<T> {
    private final long nanos;
    private long at;
    @Nullable private T value;

    Fresh(long nanos) {
      this.nanos = nanos;
    }

    T get(Supplier<T> find) {
      if (value == null || System.nanoTime() - at > nanos) {
        value = find.get();
        at = System.nanoTime();
      }
      return value;
    }
  }
}
