package dev.kavrin.e2e;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * A drive that can be pulled: a tmpfs behind a mount point, or a renamed folder where none may be.
 */
final class Drive implements AutoCloseable {
  private final Path inside;
  private final Path mountPoint;
  private final boolean mounts;
  private boolean plugged;

  Drive(Path inside, Path mountPoint) throws IOException, InterruptedException {
    this.inside = Files.createDirectories(inside);
    this.mountPoint = Files.createDirectories(mountPoint);
    this.mounts = run("mount", "-t", "tmpfs", "-o", "size=64m", "none", inside.toString());
    Owner.give(inside);
    plug();
  }

  void plug() throws IOException, InterruptedException {
    if (mounts) {
      run("mount", "--bind", inside.toString(), mountPoint.toString());
    } else {
      Files.delete(mountPoint);
      Files.move(inside, mountPoint);
    }
    plugged = true;
  }

  void pull() throws IOException, InterruptedException {
    if (mounts) {
      run("umount", "--lazy", mountPoint.toString());
    } else {
      Files.move(mountPoint, inside);
      Files.createDirectory(mountPoint);
    }
    plugged = false;
  }

  private static boolean run(String... command) throws IOException, InterruptedException {
    return new ProcessBuilder(command).start().waitFor() == 0;
  }

  @Override
  public void close() throws Exception {
    if (plugged) {
      pull();
    }
    if (mounts) {
      run("umount", "--lazy", inside.toString());
    }
  }
}
