package dev.kavrin.core.health;

import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.RelativePath;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;

/**
 * What lies in a file's own folder or below it, or lay there once. Nothing else outside is opened,
 * and no link is followed.
 *
 * @param once files that stand for what lay beside it, by the path from its folder; they go first
 */
public record SiblingFilesOnDisk(Disk disk, Path file, Map<String, String> once)
    implements SiblingFiles {
  /** What lies there now. */
  public SiblingFilesOnDisk(Disk disk, Path file) {
    this(disk, file, Map.of());
  }

  @Override
  public Optional<SeekableByteChannel> open(String path) throws IOException {
    Path folder = file.getParent();
    Path wanted;
    try {
      wanted = folder.resolve(path).normalize();
    } catch (InvalidPathException noPath) {
      return Optional.empty();
    }
    String snapshot = once.get(RelativePath.of(folder, wanted));
    if (snapshot != null && isFile(Path.of(snapshot))) {
      return Optional.of(disk.read(Path.of(snapshot)));
    }
    return wanted.startsWith(folder) && isFile(wanted)
        ? Optional.of(disk.read(wanted))
        : Optional.empty();
  }

  private boolean isFile(Path path) throws IOException {
    return disk.facts(path).filter(FileFacts::isFile).isPresent();
  }
}
