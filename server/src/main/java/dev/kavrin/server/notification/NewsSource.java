package dev.kavrin.server.notification;

import dev.kavrin.server.backup.Kept;
import java.util.Collection;

/** Looks for one kind of thing that people should be told. */
interface NewsSource {
  /**
   * Looks once, every few seconds; so it asks only for what is at hand.
   *
   * @param projects all that are watched
   */
  void look(Collection<Kept> projects, Round round);
}
