package dev.kavrin.core.disk;

import dev.kavrin.core.units.Moments;
import java.time.Instant;

/**
 * What the file system says of one name, without following a link that stands there.
 *
 * @param kind what stands at the name
 * @param size bytes
 * @param modifiedNanos last write, nanoseconds since 1970
 * @param key device and file number; equal keys are one file under two names
 */
public record FileFacts(Kind kind, long size, long modifiedNanos, String key) {
  /** What can stand at a name. */
  public enum Kind {
    FILE,
    FOLDER,
    LINK,
    OTHER
  }

  public boolean isFile() {
    return kind == Kind.FILE;
  }

  public boolean isFolder() {
    return kind == Kind.FOLDER;
  }

  public Instant modified() {
    return Moments.ofNanos(modifiedNanos);
  }

  /** True if nothing tells that the file was written or swapped between the two looks. */
  public boolean sameAs(FileFacts other) {
    return size == other.size && modifiedNanos == other.modifiedNanos && key.equals(other.key);
  }
}
