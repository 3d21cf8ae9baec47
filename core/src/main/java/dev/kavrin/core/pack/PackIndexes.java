package dev.kavrin.core.pack;

import dev.kavrin.core.disk.Disk;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;

/** The indexes of the packs that were read last; a pack never changes under its name. */
final class PackIndexes {
  /** Kept of all indexes together, some 25 MB. */
  private static final long MOST_FRAMES = 300_000;

  private final Map<Path, PackIndex> known = new LinkedHashMap<>(16, 0.75f, true);
  private long frames;

  /** Of an open pack. */
  PackIndex of(Path pack, SeekableByteChannel open) throws IOException {
    synchronized (known) {
      PackIndex index = known.get(pack);
      if (index != null) {
        return index;
      }
    }
    PackIndex index = PackIndex.read(open, pack.toString());
    keep(pack, index);
    return index;
  }

  /** Of a pack by its name. */
  PackIndex of(Disk disk, Path pack) throws IOException {
    try (SeekableByteChannel in = disk.read(pack)) {
      return of(pack, in);
    }
  }

  private void keep(Path pack, PackIndex index) {
    synchronized (known) {
      if (known.put(pack, index) == null) {
        frames += index.frames().size();
      }
      Iterator<PackIndex> oldest = known.values().iterator();
      while (frames > MOST_FRAMES && known.size() > 1) {
        frames -= oldest.next().frames().size();
        oldest.remove();
      }
    }
  }
}
