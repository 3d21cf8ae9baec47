package dev.kavrin.core.bundle;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;

/** The files of a bag that lies in a folder or in one ZIP. Nothing is written. */
public interface BagFiles extends Closeable {
  /**
   * Their bytes by path in the bag.
   *
   * @param odd told what is no plain file and is not followed
   */
  Map<String, Long> list(Consumer<String> odd) throws IOException;

  InputStream open(String path) throws IOException;

  /** The bag at a path, whichever it is. */
  static BagFiles at(Disk disk, Path path) throws IOException {
    return disk.facts(path).filter(FileFacts::isFile).isPresent()
        ? Zipped.open(disk.read(path))
        : new InFolder(disk, path);
  }

  /** In a folder. */
  record InFolder(Disk disk, Path folder) implements BagFiles {
    @Override
    public Map<String, Long> list(Consumer<String> odd) throws IOException {
      Map<String, Long> files = new TreeMap<>();
      gather(folder, "", files, odd);
      return files;
    }

    private void gather(Path from, String above, Map<String, Long> files, Consumer<String> odd)
        throws IOException {
      for (Path path : disk.list(from)) {
        String name = above + path.getFileName();
        FileFacts facts = disk.facts(path).orElse(null);
        if (facts != null && facts.isFolder()) {
          gather(path, name + "/", files, odd);
        } else if (facts != null && facts.isFile()) {
          files.put(name, facts.size());
        } else {
          odd.accept(name);
        }
      }
    }

    @Override
    public InputStream open(String path) throws IOException {
      SeekableByteChannel in = disk.read(folder.resolve(path));
      return new java.io.FilterInputStream(Bytes.from(in, 0)) {
        @Override
        public void close() throws IOException {
          in.close();
        }
      };
    }

    @Override
    public void close() {}
  }

  /** In a ZIP, in the one folder it holds; of names that stand twice the first counts. */
  record Zipped(ZipFile zip, String top) implements BagFiles {
    static Zipped open(SeekableByteChannel in) throws IOException {
      ZipFile zip = ZipFile.builder().setSeekableByteChannel(in).get();
      String top = "";
      for (ZipArchiveEntry entry : Collections.list(zip.getEntries())) {
        String name = entry.getName();
        if (name.endsWith("/" + Bag.DECLARATION) && name.indexOf('/') == name.lastIndexOf('/')) {
          top = name.substring(0, name.indexOf('/') + 1);
        }
      }
      return new Zipped(zip, top);
    }

    @Override
    public Map<String, Long> list(Consumer<String> odd) {
      Map<String, Long> files = new TreeMap<>();
      for (ZipArchiveEntry entry : Collections.list(zip.getEntries())) {
        String name = entry.getName();
        boolean inside =
            name.startsWith(top)
                && !name.startsWith("/")
                && !name.contains("\\")
                && !List.of(name.split("/")).contains("..");
        if (!inside || entry.isUnixSymlink()) {
          odd.accept(name);
        } else if (!entry.isDirectory()) {
          files.putIfAbsent(name.substring(top.length()), entry.getSize());
        }
      }
      return files;
    }

    @Override
    public InputStream open(String path) throws IOException {
      return zip.getInputStream(zip.getEntry(top + path));
    }

    @Override
    public void close() throws IOException {
      zip.close();
    }
  }
}
