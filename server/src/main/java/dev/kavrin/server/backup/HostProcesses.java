package dev.kavrin.server.backup;

import dev.kavrin.core.host.Processes;
import dev.kavrin.server.platform.ProcessList;
import java.util.List;

/** The processes of this machine, looked at no more than once a half second. */
final class HostProcesses implements Processes {
  private static final long FRESH_NANOS = 500_000_000;

  private List<String> commandLines = List.of();
  private long lookedAt;
  private boolean looked;

  @Override
  public synchronized boolean runs(String words) {
    if (words == null || words.isBlank()) {
      return false;
    }
    if (!looked || System.nanoTime() - lookedAt > FRESH_NANOS) {
      commandLines = look();
      lookedAt = System.nanoTime();
      looked = true;
    }
    return commandLines.stream().anyMatch(line -> line.contains(words));
  }

  private static List<String> look() {
    return ProcessList.now().stream().map(l -> String.join(" ", l.arguments())).toList();
  }
}
