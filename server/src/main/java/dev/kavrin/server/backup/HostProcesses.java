package dev.kavrin.server.backup;

import dev.kavrin.core.host.Instance;
import dev.kavrin.core.host.Processes;
import dev.kavrin.server.platform.ProcessList;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * The processes of this machine, without Kavrin's own. They are looked at no more than once a half
 * second, and what all of them have open no more than once in five.
 */
final class HostProcesses implements Processes {
  private static final Path PROC = Path.of("/proc");
  private static final Path BOOT = PROC.resolve("sys/kernel/random/boot_id");
  private static final Path NAME = PROC.resolve("sys/kernel/hostname");
  private static final long FRESH_NANOS = 500_000_000;
  private static final long OPEN_FRESH_NANOS = 5_000_000_000L;

  private final Fresh<List<ProcessList.Line>> lines = new Fresh<>(FRESH_NANOS);
  private final Fresh<Map<Path, List<ProcessList.Line>>> open = new Fresh<>(OPEN_FRESH_NANOS);
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
                lines.get(HostProcesses::look).stream()
                    .filter(l -> String.join(" ", l.arguments()).contains(w))
                    .flatMap(l -> instance(l).stream())
                    .toList());
  }

  @Override
  public synchronized List<Instance> having(Path file) {
    return open.get(this::openFiles).getOrDefault(file, List.of()).stream()
        .flatMap(l -> instance(l).stream())
        .toList();
  }

  @Override
  public String boot() {
    return read(BOOT);
  }

  @Override
  public String name() {
    String told = read(NAME);
    if (!told.isEmpty()) {
      return told;
    }
    try {
      return InetAddress.getLocalHost().getHostName();
    } catch (UnknownHostException untold) {
      return "";
    }
  }

  private static String read(Path file) {
    try {
      return Files.readString(file).strip();
    } catch (IOException untold) {
      return "";
    }
  }

  private static List<ProcessList.Line> look() {
    long own = ProcessHandle.current().pid();
    return ProcessList.now().stream().filter(l -> l.pid() != own).toList();
  }

  private Map<Path, List<ProcessList.Line>> openFiles() {
    Map<Path, List<ProcessList.Line>> all = new HashMap<>();
    for (ProcessList.Line line : lines.get(HostProcesses::look)) {
      if (!isOurs(line.pid())) {
        ProcessList.open(line.pid())
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
  private static Optional<Instance> instance(ProcessList.Line line) {
    return ProcessHandle.of(line.pid())
        .map(
            process ->
                new Instance(
                    line.pid(),
                    process.info().user().orElse(""),
                    process.info().startInstant().orElse(Instant.EPOCH),
                    line.arguments(),
                    folder(line.pid()),
                    ProcessList.open(line.pid()),
                    process.info().totalCpuDuration().orElse(null)));
  }

  @Nullable
  private static Path folder(long pid) {
    try {
      return Files.readSymbolicLink(PROC.resolve(Long.toString(pid)).resolve("cwd"));
    } catch (IOException | SecurityException notTold) {
      return null;
    }
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
