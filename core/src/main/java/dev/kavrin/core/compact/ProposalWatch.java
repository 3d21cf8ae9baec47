package dev.kavrin.core.compact;

import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.plan.Compacting;
import dev.kavrin.core.units.Clockwork;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.time.Duration;
import java.util.Optional;

/**
 * Finds out by itself whether compacting would pay where the plan does not want it; looks once an
 * hour whether there is much to gain, and measures once a week. Nothing is written.
 */
final class ProposalWatch {
  private static final Duration LOOK_EVERY = Duration.ofHours(1);
  private static final Duration MEASURE_EVERY = Duration.ofDays(7);

  private final long worth;
  private final Clockwork clock;
  @Nullable private Duration looked;
  @Nullable private Duration measured;
  @Nullable private volatile CompactingProposal present;

  /**
   * @param worth bytes below which nobody is told
   */
  ProposalWatch(long worth, Clockwork clock) {
    this.worth = worth;
    this.clock = clock;
  }

  Optional<CompactingProposal> present() {
    return Optional.ofNullable(present);
  }

  synchronized void look(ProjectRecord project, History history, OlderVersions older)
      throws IOException {
    Compacting wish = project.plan().compacting();
    if (wish.on()) {
      present = null;
      return;
    }
    if (isRecent(looked, LOOK_EVERY) || isRecent(measured, MEASURE_EVERY)) {
      return;
    }
    looked = clock.running();
    Compacting asIf = new Compacting(true, wish.newest(), wish.every());
    if (bytes(project, history, asIf) < worth) {
      present = null;
      return;
    }
    measured = clock.running();
    CompactingProposal found = new CompactingProposal(asIf, older.estimate(project, asIf));
    present = found.pays(worth) ? found : null;
  }

  private static long bytes(ProjectRecord project, History history, Compacting asIf) {
    return history.documents(project.id()).stream()
        .flatMap(d -> Compactable.of(history, d.id(), asIf).stream())
        .mapToLong(b -> b.content().length())
        .sum();
  }

  private boolean isRecent(@Nullable Duration last, Duration every) {
    return last != null && clock.running().minus(last).compareTo(every) < 0;
  }
}
