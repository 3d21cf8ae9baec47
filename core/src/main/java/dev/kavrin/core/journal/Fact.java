package dev.kavrin.core.journal;

import java.util.List;
import java.util.UUID;

/**
 * An entry that says how something is. A later one with the same key takes its place; all of a
 * project's are told to every folder that serves it.
 */
public interface Fact {
  /** What tells it from other facts of its kind and scope; empty if there is one only. */
  default List<Object> key() {
    return List.of();
  }

  /** The project or document it is about. */
  UUID scope();

  /** About a document. */
  interface OfDocument extends Fact {
    UUID document();

    @Override
    default UUID scope() {
      return document();
    }
  }

  /** About a project. */
  interface OfProject extends Fact {
    UUID project();

    @Override
    default UUID scope() {
      return project();
    }
  }
}
