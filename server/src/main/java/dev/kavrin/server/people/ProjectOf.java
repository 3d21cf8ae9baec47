package dev.kavrin.server.people;

import java.util.Optional;
import java.util.UUID;

/** Tells to which project something belongs that a call names by its id. */
public interface ProjectOf {
  /** What the address names: {@code documents}, {@code restores}, … (the word before the id). */
  String noun();

  /** Empty if there is no such thing. */
  Optional<UUID> project(UUID id);
}
