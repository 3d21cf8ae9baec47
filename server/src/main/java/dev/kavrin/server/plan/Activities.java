package dev.kavrin.server.plan;

import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.journal.ProgramSeen;
import dev.kavrin.core.journal.ProgramWrote;
import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.Worked;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.incident.IncidentService;
import dev.kavrin.server.program.ProgramAudits;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.ActivityLog;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** What was recorded of the work, as plans are weighed by it. */
@Component
public class Activities {
  private static final Set<String> NO_CRASH =
      Set.of("closed", IncidentWatch.ASKED, IncidentWatch.MEANT);

  private static final Duration LOOK = Duration.ofSeconds(1);

  private final ProjectService projects;
  private final ProgramAudits audits;
  private final ActivityLog log;
  private final IncidentService incidents;
  private final InstantSource clock;

  Activities(
      ProjectService projects,
      ProgramAudits audits,
      ActivityLog log,
      IncidentService incidents,
      InstantSource clock) {
    this.projects = projects;
    this.audits = audits;
    this.log = log;
    this.incidents = incidents;
    this.clock = clock;
  }

  private static List<Instant> ownCopies(Kept kept, UUID document) {
    return kept.folder().history().programWrote(document).stream()
        .map(ProgramWrote::modified)
        .toList();
  }

  /** What happened to some documents of a project, and its crashes. */
  public Activity of(Kept kept, List<UUID> wanted) {
    Set<UUID> ids = new HashSet<>(wanted);
    List<Document> documents =
        projects.documents(kept.project().id()).stream().filter(d -> ids.contains(d.id())).toList();
    Map<UUID, List<Activity.Write>> writes = log.writes(documents);
    List<Activity.Crash> crashes =
        incidents.of(kept.project().id()).stream()
            .filter(i -> !NO_CRASH.contains(i.kind()))
            .filter(i -> i.documents().stream().anyMatch(ids::contains))
            .map(i -> new Activity.Crash(i.from(), i.to(), i.documents()))
            .sorted(Comparator.comparing(Activity.Crash::lastAlive))
            .toList();
    List<Instant> written = new ArrayList<>();
    writes.values().forEach(all -> all.forEach(w -> written.add(w.at())));
    ids.forEach(d -> written.addAll(ownCopies(kept, d)));
    List<Instant> lastAlive = crashes.stream().map(Activity.Crash::lastAlive).toList();
    List<ProgramSeen> seen = kept.folder().history().programSeen(kept.project().id());
    List<Worked.Sitting> atWork =
        seen.stream().map(p -> new Worked.Sitting(p.from(), p.to())).toList();
    List<Worked.Sitting> alive =
        seen.stream().map(p -> new Worked.Sitting(p.from(), p.at())).toList();
    List<Instant> moments = Stream.concat(written.stream(), lastAlive.stream()).toList();
    Instant now = clock.instant();
    Duration own = audits.writesEvery(kept);
    List<Worked.Sitting> watched = log.watched(kept.folder().root().toString());
    return new Activity(
        writes,
        crashes,
        watched,
        Worked.of(moments, own == null ? Duration.ZERO : own)
            .and(atWork)
            .and(Worked.open(written, lastAlive, alive))
            .within(watched),
        ZoneId.of(kept.project().zone()),
        new Activity.Looks(now, LOOK, now),
        documents.stream()
            .filter(d -> kept.project().isRun(d.path()))
            .map(Document::id)
            .collect(Collectors.toSet()));
  }
}
