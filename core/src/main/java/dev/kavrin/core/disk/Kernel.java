package dev.kavrin.core.disk;

import com.sun.jna.LastErrorException;
import com.sun.jna.Library;
import com.sun.jna.Native;
import com.sun.jna.NativeLong;
import com.sun.jna.Platform;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystems;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * What the Linux kernel can do beyond the JDK: {@code renameat2}, {@code ioctl(FICLONE)}, {@code
 * lseek(SEEK_HOLE)} and {@code statx} (man pages renameat2(2), ioctl_ficlone(2), lseek(2),
 * statx(2)). Where one of them is not to be had the answer says so; nothing was touched then.
 */
final class Kernel {
  private static final int AT_CURRENT_FOLDER = -100;
  private static final int RENAME_NOREPLACE = 1;
  private static final int RENAME_EXCHANGE = 2;
  private static final int ENOENT = 2;
  private static final int EEXIST = 17;
  private static final int READ_ONLY = 0;
  private static final int WRITE_ONLY = 1;
  private static final int SEEK_DATA = 3;
  private static final int SEEK_HOLE = 4;
  private static final int NO_FOLLOW = 0x100;
  private static final int STATX_BORN = 0x800;
  private static final int STATX_SIZE = 256;
  private static final int STATX_BORN_AT = 0x50;
  private static final NativeLong FICLONE = new NativeLong(0x40049409L);

  private interface LibC extends Library {
    int renameat2(int fromFolder, String from, int toFolder, String to, int flags)
        throws LastErrorException;

    int open(String path, int flags) throws LastErrorException;

    int close(int file) throws LastErrorException;

    int ioctl(int file, NativeLong request, int other) throws LastErrorException;

    long lseek(int file, long offset, int whence) throws LastErrorException;

    int statx(int folder, String path, int flags, int mask, byte[] found) throws LastErrorException;
  }

  private static final LibC LIBC = load();

  private Kernel() {}

  private static LibC load() {
    if (!Platform.isLinux()) {
      return null;
    }
    try {
      return Native.load("c", LibC.class, Map.of(Library.OPTION_STRING_ENCODING, "UTF-8"));
    } catch (UnsatisfiedLinkError noLibrary) {
      return null;
    }
  }

  /**
   * Files of this machine, and not of a file system that lives elsewhere, in memory or an archive.
   */
  private static boolean knows(Path file) {
    return LIBC != null && file.getFileSystem() == FileSystems.getDefault();
  }

  /** When a file came to be; empty where kernel or file system keep no such time. */
  static Optional<Instant> born(Path file) {
    if (!knows(file)) {
      return Optional.empty();
    }
    byte[] found = new byte[STATX_SIZE];
    try {
      LIBC.statx(AT_CURRENT_FOLDER, file.toString(), NO_FOLLOW, STATX_BORN, found);
    } catch (LastErrorException | UnsatisfiedLinkError untold) {
      return Optional.empty();
    }
    ByteBuffer told = ByteBuffer.wrap(found).order(ByteOrder.nativeOrder());
    return (told.getInt(0) & STATX_BORN) == 0
        ? Optional.empty()
        : Optional.of(
            Instant.ofEpochSecond(told.getLong(STATX_BORN_AT), told.getInt(STATX_BORN_AT + 8)));
  }

  /** Two names swapped in one step; false where that cannot be. */
  static boolean swap(Path a, Path b) throws IOException {
    return rename(a, b, RENAME_EXCHANGE);
  }

  /**
   * One step to a name that is free; false where that cannot be.
   *
   * @throws FileAlreadyExistsException the name is taken
   */
  static boolean renameIfFree(Path from, Path to) throws IOException {
    return rename(from, to, RENAME_NOREPLACE);
  }

  private static boolean rename(Path from, Path to, int flags) throws IOException {
    if (!knows(from)) {
      return false;
    }
    try {
      LIBC.renameat2(AT_CURRENT_FOLDER, from.toString(), AT_CURRENT_FOLDER, to.toString(), flags);
      return true;
    } catch (LastErrorException failed) {
      if (failed.getErrorCode() == ENOENT) {
        throw new NoSuchFileException(from.toString(), to.toString(), "one of the two is absent");
      }
      if (failed.getErrorCode() == EEXIST) {
        throw new FileAlreadyExistsException(to.toString());
      }
      return false;
    } catch (UnsatisfiedLinkError noSuchCall) {
      return false;
    }
  }

  /** Gives the empty file {@code to} the bytes of {@code from} without room of its own. */
  static boolean clone(Path from, Path to) {
    if (!knows(from)) {
      return false;
    }
    try {
      int source = LIBC.open(from.toString(), READ_ONLY);
      try {
        int target = LIBC.open(to.toString(), WRITE_ONLY);
        try {
          return LIBC.ioctl(target, FICLONE, source) == 0;
        } finally {
          LIBC.close(target);
        }
      } finally {
        LIBC.close(source);
      }
    } catch (LastErrorException | UnsatisfiedLinkError cannot) {
      return false;
    }
  }

  /** Bytes of a file that were never written, all its holes together; empty if not to be told. */
  static OptionalLong holes(Path file, long size) {
    if (!knows(file)) {
      return OptionalLong.empty();
    }
    try {
      int open = LIBC.open(file.toString(), READ_ONLY);
      try {
        return OptionalLong.of(holes(open, size));
      } finally {
        LIBC.close(open);
      }
    } catch (LastErrorException | UnsatisfiedLinkError cannot) {
      return OptionalLong.empty();
    }
  }

  private static long holes(int open, long size) {
    long holes = 0;
    long at = LIBC.lseek(open, 0, SEEK_HOLE);
    while (at < size) {
      long data = nextData(open, at, size);
      holes += data - at;
      at = data < size ? LIBC.lseek(open, data, SEEK_HOLE) : size;
    }
    return holes;
  }

  /** The kernel answers "no such address" where nothing but a hole follows. */
  private static long nextData(int open, long from, long size) {
    try {
      return Math.min(size, LIBC.lseek(open, from, SEEK_DATA));
    } catch (LastErrorException onlyHole) {
      return size;
    }
  }
}
