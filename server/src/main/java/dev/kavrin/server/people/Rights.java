package dev.kavrin.server.people;

import jakarta.annotation.Nullable;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;

/**
 * What one person may.
 *
 * @param everywhere with every project there is and will be; null if there is no such right
 * @param projects with single ones
 */
public record Rights(@Nullable Role everywhere, Map<UUID, Role> projects) {
  static final Rights NONE = new Rights(null, Map.of());

  public Rights {
    projects = Map.copyOf(projects);
  }

  public boolean mayEverywhere(Role wanted) {
    return everywhere != null && everywhere.covers(wanted);
  }

  public boolean may(UUID project, Role wanted) {
    return mayEverywhere(wanted)
        || Optional.ofNullable(projects.get(project)).filter(r -> r.covers(wanted)).isPresent();
  }

  boolean maySomewhere(Role wanted) {
    return mayEverywhere(wanted) || projects.values().stream().anyMatch(r -> r.covers(wanted));
  }

  /** These and others: of two roles the larger. */
  Rights with(@Nullable UUID project, Role role) {
    if (project == null) {
      return new Rights(larger(everywhere, role), projects);
    }
    Map<UUID, Role> both = new java.util.HashMap<>(projects);
    both.merge(project, role, Rights::larger);
    return new Rights(everywhere, both);
  }

  private static Role larger(@Nullable Role a, Role b) {
    return Stream.of(Optional.ofNullable(a).orElse(b), b).max(Role::compareTo).orElseThrow();
  }
}
