package dev.kavrin.server.capture;

import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.store.CatchUp;
import dev.kavrin.core.store.IncidentWatch;
import dev.kavrin.core.store.Keeper;
import dev.kavrin.core.store.ProjectRecord;
import dev.kavrin.core.store.Recoveries;
import dev.kavrin.core.store.RecoveryFolder;
import dev.kavrin.core.store.Tidying;
import dev.kavrin.core.store.Watch;
import java.util.function.Function;

/** A project under watch, with everything that acts on it. */
public record Kept(
    Recoveries recoveries,
    CatchUp catchUp,
    Watch watch,
    IncidentWatch incidents,
    Keeper keeper,
    Tidying tidying,
    Function<RecoveryFolder, Restorer> restorers) {

  public ProjectRecord project() {
    return watch.project();
  }

  /** The recovery folder to ask: the first that holds all there is. */
  public RecoveryFolder recovery() {
    return recoveries.first();
  }

  public Restorer restorer() {
    return restorers.apply(recovery());
  }
}
