package dev.kavrin.core.host;

import jakarta.annotation.Nullable;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;

/** The processes of this machine, as its system tells them; asked anew each time. */
public interface ProcessTable {
  /**
   * One process.
   *
   * @param arguments its command line, program first; never empty
   */
  record Line(long pid, List<String> arguments) {}

  /** As this machine tells them; where it tells little, a fallback that says so. */
  static ProcessTable ofThisMachine() {
    return Files.isDirectory(LinuxProcessTable.PROC.resolve("self/fd"))
        ? new LinuxProcessTable()
        : new PlainProcessTable();
  }

  /** Those that are there; such as ended meanwhile are left out. */
  List<Line> now();

  /** Files a process has open, as far as this user is told. */
  Set<Path> open(long pid);

  /** The folder a process works in, null where that is not told. */
  @Nullable
  Path folder(long pid);

  /** The file a process runs from, null where that is not told. */
  @Nullable
  Path program(long pid);

  /** True if some process may write a file just now; true as well where that cannot be told. */
  boolean mayBeWritten(Path file);

  /** What tells one start of the machine from the next; empty where that is not told. */
  String boot();

  /** The name of this machine; empty where that is not told. */
  String name();
}
