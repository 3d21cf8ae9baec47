package dev.kavrin.core.journal;

import java.util.List;
import java.util.Optional;
import java.util.UUID;

/** What a journal tells of stores elsewhere. */
public record Elsewhere(History history) {
  /** Stores that a project is sent to. */
  public List<StoreAddress> stores(UUID project) {
    return history.all(StoreSet.class, project).stream()
        .filter(StoreSet::on)
        .map(StoreSet::store)
        .toList();
  }

  /** Copies of a document in all stores, those with a fault too. */
  public List<CopyElsewhere> copies(UUID document) {
    return history.all(CopyElsewhere.class, document).stream().filter(c -> !c.gone()).toList();
  }

  /** How many copies are wanted of a project's versions; empty if nobody said so. */
  public Optional<CoverageSet> wanted(UUID project) {
    return history.all(CoverageSet.class, project).stream().findFirst();
  }
}
