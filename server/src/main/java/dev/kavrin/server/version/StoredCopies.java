package dev.kavrin.server.version;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.naming.BackupName;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.version.VersionsView.AtStore;
import dev.kavrin.server.version.VersionsView.StateView;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;

/** A document's copies in stores elsewhere, as the versions' page shows them. */
final class StoredCopies {
  private StoredCopies() {}

  /** Newest work first; those that are not there any more are left out. */
  static List<AtStore> of(Kept kept, UUID document, List<StateView> states) {
    Elsewhere elsewhere = new Elsewhere(kept.folders().history());
    List<CopyElsewhere> copies =
        elsewhere.copies(document).stream().filter(CopyElsewhere::counts).toList();
    if (copies.isEmpty()) {
      return List.of();
    }
    Map<UUID, String> names =
        elsewhere.stores(kept.project().id()).stream()
            .collect(Collectors.toMap(StoreAddress::id, StoreAddress::name));
    Map<String, StateView> here =
        states.stream().collect(Collectors.toMap(StateView::id, s -> s, (a, b) -> a));
    return copies.stream()
        .filter(c -> names.containsKey(c.store()))
        .map(c -> view(c, names.get(c.store()), here.get(c.state())))
        .sorted(Comparator.comparing(AtStore::work).reversed())
        .toList();
  }

  /**
   * @param state if it stands here; null if only the store has it
   */
  private static AtStore view(CopyElsewhere copy, String store, @Nullable StateView state) {
    return new AtStore(
        copy.state(),
        state == null ? Verdict.NOT_CHECKED.name() : state.verdict(),
        state == null ? told(copy) : state.workTo(),
        copy.content().length(),
        store,
        copy.object(),
        copy.verified());
  }

  private static Instant told(CopyElsewhere copy) {
    String name = Path.of(copy.object()).getFileName().toString();
    return BackupName.parse(name).map(n -> n.time().toInstant()).orElse(copy.verified());
  }
}
