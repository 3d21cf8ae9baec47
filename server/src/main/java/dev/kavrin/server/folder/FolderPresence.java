package dev.kavrin.server.folder;

import dev.kavrin.server.platform.Events;
import java.io.IOException;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/** Which folders are here, as of a moment ago: for pages, which wait for no disk. */
@Component
public class FolderPresence {
  private static final Logger LOG = LoggerFactory.getLogger(FolderPresence.class);

  private final FolderService folders;
  private final Events events;
  private final Map<UUID, Boolean> here = new ConcurrentHashMap<>();
  private final Map<Pair, Optional<FolderCheck>> checks = new ConcurrentHashMap<>();

  /** A backup folder and the work it serves. */
  private record Pair(String folder, String work) {}

  FolderPresence(FolderService folders, Events events) {
    this.folders = folders;
    this.events = events;
  }

  @Scheduled(fixedDelay = 1000)
  void look() {
    try {
      for (Folder folder : folders.all()) {
        boolean now = folders.isHere(folder);
        Boolean before = here.put(folder.uuid(), now);
        if (before != null && before != now) {
          events.changed("standing");
        }
      }
    } catch (DataAccessException | TransactionException away) {
      LOG.debug("Which folders are here waits for the records: {}", away.getMessage());
    }
  }

  @Scheduled(fixedDelay = 3000, initialDelay = 1000)
  void check() {
    checks.keySet().forEach(pair -> checks.put(pair, checked(pair)));
  }

  private Optional<FolderCheck> checked(Pair pair) {
    try {
      return Optional.of(folders.check(pair.folder(), FolderRole.RECOVERY, pair.work()));
    } catch (IOException | RuntimeException away) {
      return Optional.empty();
    }
  }

  /** What is to be said of a backup folder; empty if it is away or was not looked at yet. */
  public Optional<FolderCheck> lastCheck(String folder, String work) {
    return checks.computeIfAbsent(new Pair(folder, work), pair -> Optional.empty());
  }

  /** One not looked at yet was just taken in, and so is here. */
  public boolean wasHere(Folder folder) {
    return here.getOrDefault(folder.uuid(), true);
  }
}
