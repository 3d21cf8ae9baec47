package dev.kavrin.server.capture;

import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.store.IncidentWatch;
import dev.kavrin.core.store.Keeper;
import dev.kavrin.core.store.ProjectRecord;
import dev.kavrin.core.store.RecoveryFolder;
import dev.kavrin.core.store.Watch;

/** A project under watch, with everything that acts on it. */
public record Kept(
    RecoveryFolder recovery,
    Watch watch,
    IncidentWatch incidents,
    Keeper keeper,
    Restorer restorer) {

  public ProjectRecord project() {
    return watch.project();
  }
}
