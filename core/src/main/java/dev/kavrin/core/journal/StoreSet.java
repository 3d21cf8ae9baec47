package dev.kavrin.core.journal;

import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * A project is sent to a store elsewhere from now on, or no longer; what is there stays.
 *
 * @param who set it
 * @param on false if it is no longer sent there
 */
public record StoreSet(Instant at, UUID project, String who, StoreAddress store, boolean on)
    implements JournalEntry, Fact.OfProject {
  @Override
  public List<Object> key() {
    return List.of(store.id());
  }
}
