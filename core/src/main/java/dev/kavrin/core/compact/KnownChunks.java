package dev.kavrin.core.compact;

import dev.kavrin.core.pack.Chunk;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.pack.PackIndex;
import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;

/** The chunks of a document that stand in its packs. */
final class KnownChunks {
  /** Longest file whose chunks are cut the shortest, 16 KiB or so. */
  private static final long SHORT = 64L << 20;

  private static final int SHORTEST_CUTS = 4;
  private static final int LONGEST_CUTS = 8;

  private final Map<Chunk, Place> places = new HashMap<>();
  private final int scale;

  /** Where a chunk stands. */
  record Place(String pack, PackIndex.Frame frame) {}

  private KnownChunks(int scale) {
    this.scale = scale;
  }

  /**
   * Reads the indexes of a document's packs; one that is damaged is passed over.
   *
   * @param length of a version, by which the cuts are chosen if there is no pack yet
   */
  static KnownChunks of(CompactedDisk disk, Packs packs, UUID document, long length)
      throws IOException {
    int scale = -1;
    KnownChunks found = new KnownChunks(scaleFor(length));
    for (Path pack : packs.in(packs.of(document))) {
      Optional<PackIndex> index = disk.wholeIndex(pack);
      if (index.isPresent()) {
        scale = scale < 0 ? index.get().scale() : scale;
        index.get().frames().forEach(f -> found.add(new Place(packs.name(pack), f)));
      }
    }
    if (scale < 0) {
      return found;
    }
    KnownChunks sameCuts = new KnownChunks(scale);
    sameCuts.places.putAll(found.places);
    return sameCuts;
  }

  private static int scaleFor(long length) {
    int scale = SHORTEST_CUTS;
    for (long most = SHORT; most < length && scale < LONGEST_CUTS; most *= 4) {
      scale++;
    }
    return scale;
  }

  /** Of the cuts, the same for all packs of a document. */
  int scale() {
    return scale;
  }

  Place find(Chunk chunk) {
    return places.get(chunk);
  }

  void add(Place place) {
    places.putIfAbsent(place.frame().chunk(), place);
  }
}
