package dev.kavrin.core.backup;

import dev.kavrin.core.units.Sizes;
import java.io.IOException;
import java.nio.file.Path;

/** There is not enough room. Nothing was written. */
public final class NoRoomException extends IOException {
  private final long needed;
  private final long free;

  public NoRoomException(Path place, long needed, long free) {
    super(
        place
            + " has "
            + Sizes.words(free)
            + " free, "
            + Sizes.words(needed)
            + " are needed. Nothing was written");
    this.needed = needed;
    this.free = free;
  }

  public long needed() {
    return needed;
  }

  public long free() {
    return free;
  }
}
