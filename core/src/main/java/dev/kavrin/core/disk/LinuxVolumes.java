package dev.kavrin.core.disk;

import java.io.File;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * By device numbers, and disks by what the kernel tells of block devices (sysfs(5), stat(2); from
 * memory).
 */
final class LinuxVolumes implements Volumes {
  private static final Path BLOCK = Path.of("/sys/dev/block");

  @Override
  public String device(Path path) throws IOException {
    return String.valueOf(Files.getAttribute(path, "unix:dev", LinkOption.NOFOLLOW_LINKS));
  }

  @Override
  public long room(Path folder) throws IOException {
    return there(folder).getUsableSpace();
  }

  @Override
  public long capacity(Path folder) throws IOException {
    return there(folder).getTotalSpace();
  }

  /**
   * Asked by the folder itself and not by the list of mounts, which in a container or a changed
   * root need not name what lies below a folder.
   */
  private static File there(Path folder) throws IOException {
    Files.readAttributes(folder, BasicFileAttributes.class);
    return folder.toFile();
  }

  @Override
  public Optional<Set<String>> disks(Path folder) {
    try {
      long dev = ((Number) Files.getAttribute(folder, "unix:dev")).longValue();
      long major = (dev >>> 8 & 0xfff) | (dev >>> 32 & ~0xfffL);
      long minor = (dev & 0xff) | (dev >>> 12 & ~0xffL);
      Path node = BLOCK.resolve(major + ":" + minor);
      if (Files.notExists(node)) {
        return Optional.empty();
      }
      Set<String> disks = new TreeSet<>();
      collect(node.toRealPath(), disks);
      return Optional.of(disks);
    } catch (IOException unknown) {
      return Optional.empty();
    }
  }

  private static void collect(Path device, Set<String> disks) throws IOException {
    Path below = device.resolve("slaves");
    List<Path> parts;
    if (Files.isDirectory(below)) {
      try (var list = Files.list(below)) {
        parts = list.toList();
      }
    } else {
      parts = List.of();
    }
    if (parts.isEmpty()) {
      boolean partition = Files.exists(device.resolve("partition"));
      disks.add((partition ? device.getParent() : device).getFileName().toString());
    }
    for (Path part : parts) {
      collect(part.toRealPath(), disks);
    }
  }

  @Override
  public void flush(Path folder) throws IOException {
    try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
      channel.force(true);
    } catch (IOException refused) {
      // Some file systems know no flush of a folder; that is no failure of the device.
      String words = String.valueOf(refused.getMessage());
      if (!words.contains("Invalid argument") && !words.contains("not supported")) {
        throw refused;
      }
    }
  }
}
