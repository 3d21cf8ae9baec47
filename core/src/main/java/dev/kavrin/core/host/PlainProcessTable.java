package dev.kavrin.core.host;

import jakarta.annotation.Nullable;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** By what Java tells on every system: programs that run, and nothing of their files. */
final class PlainProcessTable implements ProcessTable {
  @Override
  public List<Line> now() {
    return ProcessHandle.allProcesses().flatMap(p -> line(p).stream()).toList();
  }

  private static Optional<Line> line(ProcessHandle process) {
    ProcessHandle.Info told = process.info();
    return told.command()
        .map(
            program ->
                new Line(
                    process.pid(),
                    Stream.concat(
                            Stream.of(program),
                            Arrays.stream(told.arguments().orElse(new String[0])))
                        .toList()));
  }

  @Override
  public Set<Path> open(long pid) {
    return Set.of();
  }

  @Override
  @Nullable
  public Path folder(long pid) {
    return null;
  }

  @Override
  @Nullable
  public Path program(long pid) {
    return ProcessHandle.of(pid)
        .flatMap(process -> process.info().command())
        .map(Path::of)
        .orElse(null);
  }

  @Override
  public boolean mayBeWritten(Path file) {
    return true;
  }

  @Override
  public String boot() {
    return "";
  }

  @Override
  public String name() {
    try {
      return InetAddress.getLocalHost().getHostName();
    } catch (UnknownHostException untold) {
      return "";
    }
  }
}
