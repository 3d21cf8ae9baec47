package dev.kavrin.core.compact;

import dev.kavrin.core.chunk.Chunks;
import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.chunk.Sha256;
import dev.kavrin.core.pack.Chunk;
import dev.kavrin.core.pack.PackWriter;
import dev.kavrin.core.pack.Recipe;
import java.io.IOException;
import java.io.InputStream;
import java.security.MessageDigest;
import org.apache.commons.io.input.ProxyInputStream;

/**
 * A file as it was read and cut.
 *
 * @param content what was read
 * @param added bytes of the chunks that were in no pack yet, as they are packed
 */
record Draft(ContentId content, Recipe recipe, long added) {
  /** A file could not be read; writing the pack goes on without it. */
  static final class UnreadableException extends IOException {
    private static final long serialVersionUID = 1;

    UnreadableException(IOException why) {
      super(why.getMessage(), why);
    }
  }

  /** A file whose failing is told from that of the pack. */
  private static InputStream telling(InputStream in) {
    return new ProxyInputStream(in) {
      @Override
      protected void handleIOException(IOException failed) throws IOException {
        throw new UnreadableException(failed);
      }
    };
  }

  /**
   * Reads a file to its end; chunks that are in no pack yet go into this one.
   *
   * @param pack as recipes name it
   * @throws UnreadableException the file fails
   */
  static Draft read(
      InputStream in, long modifiedNanos, KnownChunks known, PackWriter writer, String pack)
      throws IOException {
    ContentHash hash = new ContentHash();
    MessageDigest sha256 = Sha256.digest();
    Recipe.Ranges ranges = new Recipe.Ranges();
    long[] added = new long[1];
    Chunks.cut(
        telling(in),
        known.scale(),
        (bytes, from, length) -> {
          hash.add(bytes, from, length);
          sha256.update(bytes, from, length);
          Chunk chunk = Chunk.of(bytes, from, length);
          KnownChunks.Place place = known.find(chunk);
          if (place == null) {
            place = new KnownChunks.Place(pack, writer.add(chunk, bytes, from));
            known.add(place);
            added[0] += place.frame().packed();
          }
          ranges.add(place.pack(), place.frame());
        });
    ContentId content = hash.id();
    return new Draft(
        content,
        new Recipe(content.length(), Sha256.of(sha256), modifiedNanos, ranges.all()),
        added[0]);
  }
}
