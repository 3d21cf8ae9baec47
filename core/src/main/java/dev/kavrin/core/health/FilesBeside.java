package dev.kavrin.core.health;

import dev.kavrin.core.content.Beside;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;

/**
 * What lies in a file's own folder or below it. Nothing outside is opened, and no link is followed.
 */
public record FilesBeside(Disk disk, Path file) implements Beside {
  @Override
  public Optional<SeekableByteChannel> open(String path) throws IOException {
    Path folder = file.getParent();
    Path wanted;
    try {
      wanted = folder.resolve(path).normalize();
    } catch (InvalidPathException noPath) {
      return Optional.empty();
    }
    return wanted.startsWith(folder) && disk.facts(wanted).filter(FileFacts::isFile).isPresent()
        ? Optional.of(disk.read(wanted))
        : Optional.empty();
  }
}
