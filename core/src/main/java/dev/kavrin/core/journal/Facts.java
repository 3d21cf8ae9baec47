package dev.kavrin.core.journal;

import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.JournalEntry.ProjectSet;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What holds, by kind, what it is about, and key. Guarded by its history. */
final class Facts {
  private final Map<Class<?>, Map<UUID, Map<List<Object>, JournalEntry>>> facts =
      new LinkedHashMap<>();

  void put(Fact fact, JournalEntry entry) {
    facts
        .computeIfAbsent(fact.getClass(), k -> new LinkedHashMap<>())
        .computeIfAbsent(fact.scope(), k -> new LinkedHashMap<>())
        .put(fact.key(), entry);
  }

  void remove(Class<?> kind, UUID scope) {
    facts.getOrDefault(kind, Map.of()).remove(scope);
  }

  private Map<List<Object>, JournalEntry> shelf(Class<?> kind, UUID scope) {
    return facts.getOrDefault(kind, Map.of()).getOrDefault(scope, Map.of());
  }

  <T> List<T> all(Class<T> kind, UUID scope) {
    return shelf(kind, scope).values().stream().map(kind::cast).toList();
  }

  <T> List<T> all(Class<T> kind) {
    return facts.getOrDefault(kind, Map.of()).values().stream()
        .flatMap(f -> f.values().stream())
        .map(kind::cast)
        .toList();
  }

  <T> Optional<T> one(Class<T> kind, UUID scope, Object... key) {
    return Optional.ofNullable(shelf(kind, scope).get(List.of(key))).map(kind::cast);
  }

  /** One of a kind by its key, whatever it is about. */
  <T> Optional<T> anywhere(Class<T> kind, Object... key) {
    return facts.getOrDefault(kind, Map.of()).values().stream()
        .map(f -> f.get(List.of(key)))
        .filter(kind::isInstance)
        .map(kind::cast)
        .findFirst();
  }

  /** Whatever holds for a project and its documents, in an order in which it can be taken in. */
  List<JournalEntry> about(UUID project) {
    List<DocumentSet> documents = all(DocumentSet.class, project);
    List<JournalEntry> all = new ArrayList<>(all(ProjectSet.class, project));
    all.addAll(documents);
    Set<UUID> scopes =
        Stream.concat(Stream.of(project), documents.stream().map(DocumentSet::id))
            .collect(Collectors.toSet());
    facts.forEach(
        (kind, about) -> {
          if (!List.of(ProjectSet.class, DocumentSet.class).contains(kind)) {
            scopes.forEach(s -> all.addAll(about.getOrDefault(s, Map.of()).values()));
          }
        });
    return all;
  }

  /** True if an entry is later than what is known of the same. */
  boolean isNews(JournalEntry entry) {
    Fact fact = (Fact) entry;
    JournalEntry known = shelf(fact.getClass(), fact.scope()).get(fact.key());
    return known == null || entry.at().isAfter(known.at());
  }
}
