package dev.kavrin.core.disk;

import com.sun.jna.LastErrorException;
import com.sun.jna.Library;
import com.sun.jna.Native;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;

/** {@code renameat2(…, RENAME_EXCHANGE)}: two names swapped in one step of the Linux kernel. */
final class Exchange {
  private static final int AT_CURRENT_FOLDER = -100;
  private static final int RENAME_EXCHANGE = 2;
  private static final int ENOENT = 2;

  private interface LibC extends Library {
    int renameat2(int fromFolder, String from, int toFolder, String to, int flags)
        throws LastErrorException;
  }

  private static final LibC LIBC = load();

  private Exchange() {}

  private static LibC load() {
    try {
      return Native.load(
          "c", LibC.class, java.util.Map.of(Library.OPTION_STRING_ENCODING, "UTF-8"));
    } catch (UnsatisfiedLinkError noLibrary) {
      return null;
    }
  }

  static boolean swap(Path a, Path b) throws IOException {
    if (LIBC == null) {
      return false;
    }
    try {
      LIBC.renameat2(
          AT_CURRENT_FOLDER, a.toString(), AT_CURRENT_FOLDER, b.toString(), RENAME_EXCHANGE);
      return true;
    } catch (LastErrorException failed) {
      if (failed.getErrorCode() == ENOENT) {
        throw new NoSuchFileException(a.toString(), b.toString(), "one of the two is absent");
      }
      return false;
    } catch (UnsatisfiedLinkError noSuchCall) {
      return false;
    }
  }
}
