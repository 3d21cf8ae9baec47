package dev.kavrin.server.offsite;

import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.offsite.OffsiteRecovery;
import dev.kavrin.core.offsite.OnlyThere;
import dev.kavrin.core.offsite.Store;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobRun;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.ProjectService;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Versions that only a store still has, and the way of one of them back among the others. */
@Service
class StoredVersions implements JobKinds {
  private final ProjectService projects;
  private final Engine engine;
  private final JobService jobs;
  private final JournalFollower follower;
  private final InstantSource clock;
  private final JobKind<Wanted> fetching =
      JobKind.repeatable("fetch-from-store", Lane.RESTORE, Wanted.class, this::fetch);

  StoredVersions(
      ProjectService projects,
      Engine engine,
      JobService jobs,
      JournalFollower follower,
      InstantSource clock) {
    this.projects = projects;
    this.engine = engine;
    this.jobs = jobs;
    this.follower = follower;
    this.clock = clock;
  }

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(fetching);
  }

  /**
   * A version that no backup folder has any more.
   *
   * @param objects what is to be fetched, by its names in the store
   * @param step of its run; null for a version of one file
   * @param lacks what the step lacked when it was backed up, in words
   * @param work when what it holds was done
   * @param verified when it was last read back there
   * @param leaving since when the store's rules no longer keep it; null if they do
   */
  record StoredVersion(
      UUID store,
      String storeName,
      String state,
      List<String> objects,
      @Nullable Long step,
      List<String> lacks,
      Instant work,
      long size,
      Instant verified,
      @Nullable Instant leaving) {
    static StoredVersion of(OnlyThere v) {
      return new StoredVersion(
          v.store().id(),
          v.store().name(),
          v.state(),
          v.backups().stream().map(BackupRecord::path).toList(),
          v.step() == null ? null : v.step().step(),
          v.step() == null ? List.of() : v.step().lacks(),
          v.work(),
          v.bytes(),
          v.verified(),
          v.leaving());
    }
  }

  /** Newest work first; of stores that answered since Kavrin started. */
  List<StoredVersion> of(UUID document) {
    Kept kept = projects.kept(projects.document(document).project());
    return kept.offsite().onlyThere(document).stream().map(StoredVersion::of).toList();
  }

  /** Which one is to come back. */
  record Wanted(UUID document, UUID store, String state) {}

  /** What came back: a version as all others, pinned so that no rule drops it again at once. */
  record Fetched(String state, long bytes) {}

  Job begin(Wanted wanted, String who) {
    find(wanted);
    return jobs.begin(fetching, wanted.store() + " " + wanted.state(), wanted, who);
  }

  private OnlyThere find(Wanted wanted) {
    Kept kept = projects.kept(projects.document(wanted.document()).project());
    return kept.offsite().onlyThere(wanted.document()).stream()
        .filter(v -> v.store().id().equals(wanted.store()) && v.state().equals(wanted.state()))
        .findFirst()
        .orElseThrow(
            () ->
                ProblemException.notFound(
                    "No store that answers has that version alone: " + wanted.state()));
  }

  private static StoreAddress address(Kept kept, UUID store) {
    return new Elsewhere(kept.folders().history())
        .stores(kept.project().id()).stream()
            .filter(s -> s.id().equals(store))
            .findFirst()
            .orElseThrow(
                () ->
                    ProblemException.notFound(
                        "The project is not sent to that store any more. Nothing was fetched."));
  }

  private Fetched fetch(Wanted wanted, JobRun job) throws IOException {
    OnlyThere version = find(wanted);
    Kept kept = projects.kept(projects.document(wanted.document()).project());
    StoreAddress address = address(kept, wanted.store());
    try (Store store = engine.stores().open(address)) {
      OffsiteRecovery recovery = new OffsiteRecovery(engine.disk(), engine.publisher(), clock);
      for (BackupRecord backup : version.backups()) {
        job.at(-1, "Fetching " + backup.path() + " from " + address.name());
        recovery.bringOne(
            store, address.begin(), kept.folders().first(), kept.project(), backup.path());
      }
      kept.folders()
          .record(
              new JournalEntry.Marked(
                  clock.instant(),
                  wanted.document(),
                  version.state(),
                  "pinned",
                  true,
                  job.person(),
                  "Fetched from " + address.name()));
      follower.follow();
      return new Fetched(version.state(), version.bytes());
    } catch (NoSuchFileException gone) {
      throw ProblemException.notFound(
          address.name() + " has that version no more. Nothing was fetched.");
    } catch (IOException no) {
      throw ProblemException.away(
          "That version could not be fetched from "
              + address.name()
              + ": "
              + no.getMessage()
              + ". Nothing was changed.",
          no);
    }
  }
}
