package dev.kavrin.standin;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.InstantSource;

/** How acting programs write and spoil files, in the time of their own clock. */
record ActingWrites(InstantSource clock) {
  static final double WHOLE = 1;

  /** Writes so much of a file's bytes over another. */
  void part(Path target, Path from, double share) throws IOException {
    Files.createDirectories(target.getParent());
    try (FileChannel in = FileChannel.open(from);
        FileChannel out =
            FileChannel.open(
                target,
                StandardOpenOption.WRITE,
                StandardOpenOption.CREATE,
                StandardOpenOption.TRUNCATE_EXISTING)) {
      long end = (long) (in.size() * share);
      for (long at = 0; at < end; ) {
        at += in.transferTo(at, end - at, out);
      }
    }
    stamp(target);
  }

  void sign(Path target) throws IOException {
    Files.createDirectories(target.getParent());
    Files.write(target, new byte[] {1});
    stamp(target);
  }

  void zeroSecondHalf(Path target) throws IOException {
    try (FileChannel file = FileChannel.open(target, StandardOpenOption.WRITE)) {
      ByteBuffer zeros = ByteBuffer.allocate(1 << 16);
      for (long at = file.size() / 2, end = file.size(); at < end; ) {
        at += file.write(zeros.clear().limit((int) Math.min(1 << 16, end - at)), at);
      }
    }
    stamp(target);
  }

  /** Takes away the folder that stands for the drive: named by whoever made the scratch. */
  static void unplug(Path file) throws IOException {
    Path folder = file.getParent();
    while (!folder.getFileName().toString().equals("work")) {
      folder = folder.getParent();
    }
    Files.move(folder, folder.resolveSibling("unplugged"));
  }

  private void stamp(Path target) throws IOException {
    Files.setLastModifiedTime(target, FileTime.from(clock.instant()));
  }
}
