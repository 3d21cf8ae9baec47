package dev.kavrin.core.offsite;

import dev.kavrin.core.journal.StoreAddress;
import java.io.IOException;

/** Connects to stores elsewhere. */
@FunctionalInterface
public interface Stores {
  /**
   * @throws IOException it cannot be reached, or its key cannot be read
   */
  Store open(StoreAddress address) throws IOException;
}
