package dev.kavrin.server.platform;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.NotAnsweringException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Every path from outside goes through here: it is resolved, links followed, and must lie under an
 * allowed root. Resolve right before use; the answer holds no links.
 */
public final class PathGuard {
  private static final Logger LOG = LoggerFactory.getLogger(PathGuard.class);
  private static final String OWN = ".kavrin";

  private final Disk disk;
  private final List<Path> roots;
  private final Set<Path> backupFolders = ConcurrentHashMap.newKeySet();

  /**
   * @param disk asked first, so that a folder that does not answer is told and not waited for
   */
  public PathGuard(List<Path> roots, Disk disk) {
    this.disk = disk;
    this.roots = List.copyOf(roots);
  }

  public List<Path> roots() {
    return roots;
  }

  /** A folder that is there, under a root, with all links resolved. */
  public Path folder(String text) {
    Path path = resolved(text);
    if (!Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS)) {
      throw ProblemException.badInput(
          "not-a-folder", text + " is not a folder. Nothing was touched.");
    }
    return path;
  }

  /** From now on nothing is written there at a person's word: the folder takes backups. */
  public void takesBackups(Path folder) {
    backupFolders.add(folder);
  }

  /**
   * Where something is to be written at a person's word: never in a folder that takes backups, nor
   * in what is Kavrin's own.
   */
  public Path target(String text) {
    Path path = resolved(text);
    if (backupFolders.stream().map(PathGuard::real).anyMatch(path::startsWith)) {
      throw ProblemException.forbidden(
          "backup-folder",
          text
              + " lies in a folder that takes backups; nothing else is put there. Nothing was"
              + " touched.");
    }
    for (Path name : path) {
      if (name.toString().equals(OWN)) {
        throw ProblemException.forbidden(
            "own-folder", text + " lies in what is Kavrin's own. Nothing was touched.");
      }
    }
    return path;
  }

  /** The same for a folder that is there. */
  public Path targetFolder(String text) {
    return folder(target(text).toString());
  }

  /** A path inside a known folder; the last name may be absent, but may not be a link. */
  public Path inside(Path folder, String relative) {
    Path path = resolved(folder.resolve(checked(relative)).toString());
    if (!path.startsWith(real(folder))) {
      throw outside(relative);
    }
    return path;
  }

  /** A folder that is there or can be made: its nearest existing ancestor decides. */
  public Path folderToMake(String text) {
    return resolved(text);
  }

  /** True if Kavrin may look there; nothing is said about what stands there. */
  public boolean allows(Path path) {
    try {
      resolved(path.normalize().toString());
      return true;
    } catch (ProblemException no) {
      return false;
    }
  }

  private Path resolved(String text) {
    Path given = checked(text);
    if (!given.isAbsolute()) {
      throw ProblemException.badInput(
          "not-absolute", "A whole path is needed, starting with /. Got '" + text + "'.");
    }
    requireAnswer(given.normalize());
    Path real = real(given.normalize());
    if (roots.stream().map(PathGuard::real).noneMatch(real::startsWith)) {
      throw outside(text);
    }
    return real;
  }

  private void requireAnswer(Path path) {
    try {
      disk.facts(path);
    } catch (NotAnsweringException silent) {
      throw ProblemException.away(silent.getMessage() + ". Nothing was touched.", silent);
    } catch (IOException answered) {
      LOG.debug("{}: {}", path, answered.getMessage());
    }
  }

  private static Path checked(String text) {
    try {
      Path path = Path.of(text);
      for (Path name : path) {
        if (name.toString().equals("..")) {
          throw outside(text);
        }
      }
      return path;
    } catch (InvalidPathException odd) {
      throw ProblemException.badInput("bad-path", "Not a usable path: " + odd.getReason() + ".");
    }
  }

  private static Path real(Path path) {
    Path existing = path;
    while (existing != null && Files.notExists(existing, LinkOption.NOFOLLOW_LINKS)) {
      existing = existing.getParent();
    }
    if (existing == null) {
      throw outside(path.toString());
    }
    try {
      return existing.toRealPath().resolve(existing.relativize(path)).normalize();
    } catch (IOException broken) {
      throw ProblemException.forbidden(
          "path-broken",
          path + " leads nowhere: " + broken.getMessage() + ". Nothing was touched.");
    }
  }

  private static ProblemException outside(String text) {
    return ProblemException.forbidden(
        "outside-roots",
        text + " does not lie under a folder Kavrin was allowed to use. Nothing was touched.");
  }
}
