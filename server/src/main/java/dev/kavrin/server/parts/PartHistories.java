package dev.kavrin.server.parts;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import dev.kavrin.core.compare.PartHistory;
import dev.kavrin.core.compare.PartHistory.Sighting;
import dev.kavrin.server.version.VersionInventories;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** The lives of the parts of documents, worked out again when a state came or was read. */
@Service
class PartHistories {
  private static final int DOCUMENTS_AT_HAND = 2_000;

  private final VersionInventories inventories;
  private final Cache<UUID, Known> known =
      Caffeine.newBuilder().maximumSize(DOCUMENTS_AT_HAND).softValues().build();

  PartHistories(VersionInventories inventories) {
    this.inventories = inventories;
  }

  private record Known(List<Sighting> from, PartHistory history) {}

  PartHistory of(UUID document) {
    List<Sighting> now = inventories.of(document);
    Known before = known.getIfPresent(document);
    if (before != null && before.from() == now) {
      return before.history();
    }
    PartHistory history = PartHistory.of(now);
    known.put(document, new Known(now, history));
    return history;
  }
}
