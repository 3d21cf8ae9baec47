package dev.kavrin.server.bundle;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Where a bag may lie: a folder that stands, or a ZIP. */
@Component
class Bags {
  private final PathGuard guard;
  private final Disk disk;

  Bags(PathGuard guard, Disk disk) {
    this.guard = guard;
    this.disk = disk;
  }

  /**
   * @throws ProblemException nothing of the kind stands there
   */
  Path at(String text) throws IOException {
    Path bag = guard.folderToMake(text);
    Optional<FileFacts> facts = disk.facts(bag);
    boolean zip = isZip(bag) && facts.filter(FileFacts::isFile).isPresent();
    if (!zip && facts.filter(FileFacts::isFolder).isEmpty()) {
      throw ProblemException.badInput(
          "no-bag",
          text + " is neither a folder that stands there nor a ZIP. Nothing was touched.");
    }
    return bag;
  }

  static boolean isZip(Path path) {
    return path.getFileName().toString().toLowerCase(Locale.ROOT).endsWith(".zip");
  }
}
