package dev.kavrin.server.program;

import dev.kavrin.core.plan.Difference;
import dev.kavrin.core.profile.CrashLog;
import dev.kavrin.core.profile.ProgramProfile;
import jakarta.annotation.Nullable;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * A program profile from elsewhere, against the one that is here. It carries no authority: folders
 * that may lead out of the document's own, and its settings file, are taken only if a person
 * confirms each by hand.
 */
public record ImportedProfile(ProgramProfile carried, ProgramProfile here) {

  /** Paths in it that have to be confirmed. */
  public List<String> outside() {
    List<String> outside = new ArrayList<>();
    carried.leftovers().stream()
        .filter(l -> !l.folder().staysInside() && !here.leftovers().contains(l))
        .map(l -> l.folder().toString())
        .distinct()
        .forEach(outside::add);
    if (!isInside(carried.crashLog())) {
      outside.add(carried.crashLog().folder().toString());
    }
    if (carried.settings() != null && !carried.settings().equals(here.settings())) {
      outside.add(carried.settings().file());
    }
    return outside;
  }

  private boolean isInside(@Nullable CrashLog log) {
    return log == null || log.folder().staysInside() || log.equals(here.crashLog());
  }

  /**
   * What would stand here then. What is known here of leftovers, settings and crash logs is never
   * taken away for want of a confirmation.
   */
  public ProgramProfile taken(Set<String> confirmed) {
    boolean all =
        carried.leftovers().stream()
            .allMatch(
                l ->
                    l.folder().staysInside()
                        || here.leftovers().contains(l)
                        || confirmed.contains(l.folder().toString()));
    boolean settings = carried.settings() != null && confirmed.contains(carried.settings().file());
    return new ProgramProfile(
        carried.name(),
        carried.process(),
        carried.sessionSign(),
        carried.writesEvery(),
        all ? carried.leftovers() : here.leftovers(),
        settings ? carried.settings() : here.settings(),
        carried.lockText(),
        takesLog(confirmed) ? carried.crashLog() : here.crashLog(),
        // They are looked at only where Kavrin may, and backed up only once a person says so.
        carried.ownFiles().isEmpty() ? here.ownFiles() : carried.ownFiles(),
        // What a person found in the program on another machine says nothing of this one's.
        here.asked());
  }

  private boolean takesLog(Set<String> confirmed) {
    CrashLog log = carried.crashLog();
    return log != null && (isInside(log) || confirmed.contains(log.folder().toString()));
  }

  /** What taking it changes, in words. */
  public List<String> changes(Set<String> confirmed) {
    return Difference.of(here, taken(confirmed));
  }
}
