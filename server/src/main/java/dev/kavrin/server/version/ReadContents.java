package dev.kavrin.server.version;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.health.Verdict;
import jakarta.annotation.Nullable;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;

/** What is inside contents, as far as they were read; kept at hand, for a content never changes. */
@Component
class ReadContents {
  private static final int AT_HAND = 20_000;

  private final VersionRows.Contents rows;
  private final Cache<Long, Facts> read = Caffeine.newBuilder().maximumSize(AT_HAND).build();

  ReadContents(VersionRows.Contents rows) {
    this.rows = rows;
  }

  /**
   * @param id "length-digest"
   * @param parts those that can be read, null where the kind has none
   * @param partsTotal all of them, null where the kind has none
   * @param labels of the readable parts
   * @param links files it names
   * @param fingerprints of the parts that have one
   */
  record Facts(
      String id,
      long length,
      String verdict,
      List<Finding> findings,
      @Nullable Long parts,
      @Nullable Long partsTotal,
      List<String> labels,
      List<String> links,
      List<String> fingerprints) {}

  /** Facts by key; what was not read yet is told as not checked. */
  Map<Long, Facts> facts(Collection<Long> keys) {
    Map<Long, Facts> found = new HashMap<>(read.getAllPresent(keys));
    List<Long> missing = keys.stream().filter(k -> !found.containsKey(k)).distinct().toList();
    for (ContentRow row : missing.isEmpty() ? List.<ContentRow>of() : rows.findAllById(missing)) {
      Facts facts = seen(row);
      found.put(row.id, facts);
      if (row.inventory != null) {
        read.put(row.id, facts);
      }
    }
    return found;
  }

  /** What is inside is read again, and what was told of it no longer holds. */
  void readAgain(Collection<Long> keys) {
    for (ContentRow row : rows.findAllById(keys)) {
      row.inventory = null;
      rows.save(row);
      read.invalidate(row.id);
    }
  }

  /** What was told of one no longer holds. */
  void forget(long key) {
    read.invalidate(key);
  }

  private static Facts seen(ContentRow row) {
    Inventory inventory =
        row.inventory == null
            ? Inventory.OPAQUE
            : VersionRecorder.MAPPER.readValue(row.inventory, Inventory.class);
    List<Part> parts = inventory.counted();
    return new Facts(
        row.length + "-" + row.digest,
        row.length,
        row.verdict == null ? Verdict.NOT_CHECKED.name() : row.verdict,
        row.findings == null
            ? List.of()
            : VersionRecorder.MAPPER.readValue(row.findings, new TypeReference<List<Finding>>() {}),
        parts.isEmpty() ? null : parts.stream().filter(Part::readable).count(),
        parts.isEmpty() ? null : (long) parts.size(),
        parts.stream().filter(Part::readable).map(Part::label).toList(),
        inventory.links().stream().filter(Link::namesFile).map(Link::uri).toList(),
        inventory.parts().stream().map(Part::exact).filter(Objects::nonNull).toList());
  }
}
