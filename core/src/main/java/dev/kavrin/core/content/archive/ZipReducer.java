package dev.kavrin.core.content.archive;

import dev.kavrin.core.content.Reducer;
import dev.kavrin.core.content.Unclosed;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.FileSystems;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import org.apache.commons.compress.archivers.zip.ZipFile;

/**
 * ZIP archives (ISO/IEC 21320-1) without the entries whose path or name fits one of some patterns.
 */
public final class ZipReducer implements Reducer {
  private final List<PathMatcher> patterns;
  private final List<PathMatcher> exceptions;

  /**
   * @param globs of entry paths or their last names, {@code *} for anything
   */
  public ZipReducer(List<String> globs) {
    this(globs, List.of());
  }

  /**
   * @param exceptions the same, for entries that stay in all the same
   */
  public ZipReducer(List<String> globs, List<String> exceptions) {
    this.patterns = matchers(globs);
    this.exceptions = matchers(exceptions);
  }

  private static List<PathMatcher> matchers(List<String> globs) {
    return globs.stream().map(g -> FileSystems.getDefault().getPathMatcher("glob:" + g)).toList();
  }

  @Override
  public boolean takes(String ext) {
    return ext.equals("zip") && !patterns.isEmpty();
  }

  private boolean isLeftOut(ZipEntry entry) {
    try {
      Path path = Path.of(entry.getName());
      return !entry.isDirectory() && isAny(patterns, path) && !isAny(exceptions, path);
    } catch (InvalidPathException odd) {
      return false;
    }
  }

  private static boolean isAny(List<PathMatcher> patterns, Path path) {
    return patterns.stream().anyMatch(p -> p.matches(path) || p.matches(path.getFileName()));
  }

  private interface Use {
    void take(ZipEntry entry, InputStream bytes) throws IOException;
  }

  private static void each(SeekableByteChannel in, Use use) throws IOException {
    in.position(0);
    try (ZipInputStream zip = new ZipInputStream(Channels.newInputStream(new Unclosed(in)))) {
      for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
        use.take(entry, zip);
      }
    }
  }

  @Override
  public List<Left> left(SeekableByteChannel in) throws IOException {
    List<Left> left = new ArrayList<>();
    try (ZipFile zip =
        ZipFile.builder()
            .setSeekableByteChannel(new Unclosed(in))
            .setIgnoreLocalFileHeader(true)
            .get()) {
      zip.getEntriesInPhysicalOrder()
          .asIterator()
          .forEachRemaining(
              e -> {
                if (isLeftOut(e)) {
                  left.add(new Left("entry " + e.getName(), Math.max(0, e.getCompressedSize())));
                }
              });
    }
    return left;
  }

  @Override
  public void write(SeekableByteChannel in, OutputStream out) throws IOException {
    ZipOutputStream zip =
        new ZipOutputStream(
            new FilterOutputStream(out) {
              @Override
              public void write(byte[] bytes, int offset, int count) throws IOException {
                out.write(bytes, offset, count);
              }

              @Override
              public void close() throws IOException {
                flush();
              }
            });
    each(
        in,
        (entry, bytes) -> {
          if (!isLeftOut(entry)) {
            ZipEntry copy = new ZipEntry(entry.getName());
            if (entry.getLastModifiedTime() != null) {
              copy.setLastModifiedTime(entry.getLastModifiedTime());
            }
            zip.putNextEntry(copy);
            bytes.transferTo(zip);
            zip.closeEntry();
          }
        });
    zip.close();
  }
}
