package dev.kavrin.server.version;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import dev.kavrin.core.compare.PartHistory.Sighting;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.KnownVersions.KnownVersion;
import dev.kavrin.server.version.KnownVersions.Member;
import jakarta.annotation.Nullable;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * What was read of every state of a document. A part that is the same in many states is one object,
 * so that a thousand states take little more room than the parts that changed.
 */
@Service
public class VersionInventories {
  private static final int DOCUMENTS_AT_HAND = 2_000;
  private static final int READ_AT_ONCE = 40;

  private final ProjectService projects;
  private final KnownVersions states;
  private final VersionRows.Contents contents;
  private final Cache<UUID, Known> known =
      Caffeine.newBuilder().maximumSize(DOCUMENTS_AT_HAND).softValues().build();

  VersionInventories(ProjectService projects, KnownVersions states, VersionRows.Contents contents) {
    this.projects = projects;
    this.states = states;
    this.contents = contents;
  }

  private record Known(
      List<KnownVersion> states,
      Map<List<String>, Inventory> byContents,
      List<Sighting> sightings) {}

  /** Oldest work first; of a run its steps only. The same object while nothing changed. */
  @Transactional(readOnly = true)
  public List<Sighting> of(UUID id) {
    return of(List.of(projects.document(id))).get(id);
  }

  /** The same of many documents at once. */
  @Transactional(readOnly = true)
  public Map<UUID, List<Sighting>> of(List<Document> documents) {
    Map<Long, List<KnownVersion>> held = states.of(documents.stream().map(Document::key).toList());
    Map<UUID, List<Sighting>> found = new HashMap<>();
    for (Document document : documents) {
      List<KnownVersion> now = held.getOrDefault(document.key(), List.of());
      Known before = known.getIfPresent(document.id());
      if (before == null || before.states() != now) {
        before = read(now, before == null ? Map.of() : before.byContents());
        known.put(document.id(), before);
      }
      found.put(document.id(), before.sightings());
    }
    return found;
  }

  private Known read(List<KnownVersion> held, Map<List<String>, Inventory> before) {
    boolean run = held.stream().anyMatch(KnownVersion::isStep);
    List<KnownVersion> shown = held.stream().filter(h -> !run || h.isStep()).toList();
    Set<String> roles = shown.stream().flatMap(h -> roles(h).stream()).collect(Collectors.toSet());
    Map<List<String>, Inventory> byContents = new HashMap<>();
    Map<String, Part> parts = new HashMap<>();
    List<Sighting> sightings = new ArrayList<>();
    for (int from = 0; from < shown.size(); from += READ_AT_ONCE) {
      List<KnownVersion> some = shown.subList(from, Math.min(shown.size(), from + READ_AT_ONCE));
      Map<String, Inventory> fresh = inventories(some, before);
      for (KnownVersion state : some) {
        List<String> key = key(state);
        Inventory inventory = before.get(key);
        if (inventory == null) {
          inventory = sameObjects(joined(state, fresh), parts);
        }
        if (inventory != null) {
          byContents.put(key, inventory);
          inventory.parts().forEach(p -> parts.put(p.id(), p));
        }
        sightings.add(
            new Sighting(
                state.row().manifestDigest, state.work(), inventory, isWhole(state, roles)));
      }
    }
    return new Known(held, byContents, List.copyOf(sightings));
  }

  /** What a step's missing file would hold is not gone; roles are those any step has a file for. */
  private static boolean isWhole(KnownVersion state, Set<String> roles) {
    Verdict verdict = state.verdict();
    return (verdict.trustworthy() || verdict == Verdict.DOUBTFUL)
        && state.isComplete()
        && roles(state).containsAll(roles);
  }

  private static Set<String> roles(KnownVersion state) {
    return state.standing().stream()
        .map(Member::role)
        .filter(Objects::nonNull)
        .collect(Collectors.toSet());
  }

  /** What a state is made of; a content that is read again counts as another. */
  private static List<String> key(KnownVersion state) {
    return state.standing().stream()
        .map(m -> m.content().id() + " " + m.content().verdict() + " " + m.content().parts())
        .toList();
  }

  private Map<String, Inventory> inventories(
      List<KnownVersion> some, Map<List<String>, Inventory> before) {
    List<Long> wanted =
        some.stream()
            .filter(state -> !before.containsKey(key(state)))
            .flatMap(state -> state.standing().stream())
            .map(m -> m.copies().get(0).contentId)
            .distinct()
            .toList();
    return contents.findAllById(wanted).stream()
        .filter(row -> row.inventory != null)
        .collect(
            Collectors.toMap(
                row -> row.length + "-" + row.digest,
                row -> VersionRecorder.MAPPER.readValue(row.inventory, Inventory.class),
                (a, b) -> a));
  }

  /** Null where nothing can be looked into. */
  @Nullable
  private static Inventory joined(KnownVersion state, Map<String, Inventory> read) {
    List<Part> parts = new ArrayList<>();
    for (Map.Entry<String, Member> file : state.named().entrySet()) {
      Inventory inside = read.get(file.getValue().content().id());
      if (inside != null && !inside.parts().isEmpty()) {
        if (!state.isStep()) {
          return inside;
        }
        inside.parts().forEach(p -> parts.add(p.under(file.getKey())));
      }
    }
    return parts.isEmpty() ? null : Inventory.of("step", parts, List.of());
  }

  @Nullable
  private static Inventory sameObjects(@Nullable Inventory read, Map<String, Part> parts) {
    if (read == null) {
      return null;
    }
    List<Part> same = new ArrayList<>(read.parts().size());
    for (Part part : read.parts()) {
      Part before = parts.get(part.id());
      same.add(part.equals(before) ? before : part);
    }
    return Inventory.of(read.format(), List.copyOf(same), read.links());
  }
}
