package dev.kavrin.server.offsite;

import dev.kavrin.core.journal.CoverageSet;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.journal.StoreSet;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.offsite.Coverage.Rule;
import dev.kavrin.core.offsite.OffsiteRecovery;
import dev.kavrin.core.offsite.Passphrases;
import dev.kavrin.core.offsite.Store;
import dev.kavrin.core.offsite.StoreMark;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.ProjectService;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.time.LocalTime;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Which stores elsewhere a project is sent to, and how it stands with them. */
@Service
class OffsiteService {
  private static final UUID UNMARKED = new UUID(0, 0);

  private final ProjectService projects;
  private final Engine engine;
  private final PathGuard guard;
  private final Coverages coverages;
  private final Passphrases passphrases;
  private final InstantSource clock;

  OffsiteService(
      ProjectService projects,
      Engine engine,
      PathGuard guard,
      Coverages coverages,
      Passphrases passphrases,
      InstantSource clock) {
    this.projects = projects;
    this.engine = engine;
    this.guard = guard;
    this.coverages = coverages;
    this.passphrases = passphrases;
    this.clock = clock;
  }

  /**
   * Where a store is.
   *
   * @param address a bucket with its beginning of names, s3://bucket/begin, or a whole path of a
   *     folder of another machine that is mounted here
   * @param service address of the service a bucket belongs to; null for a folder
   * @param key name of the key file; null for a folder
   * @param authority name of a certificate file, null for those the runtime trusts
   * @param seal name of the file with the passphrase for what is sent; null for no encryption
   */
  record Place(
      String address,
      @Nullable String service,
      @Nullable String region,
      @Nullable String key,
      @Nullable String authority,
      @Nullable String seal) {}

  /**
   * How it is used.
   *
   * @param keep keep rules of its own, null for the plan's
   * @param from hour at which sending may begin, null for any time
   * @param bytesPerSecond zero for full speed
   */
  record Use(
      String name,
      @Nullable Counts keep,
      @Nullable LocalTime from,
      @Nullable LocalTime to,
      long bytesPerSecond,
      boolean paused,
      Duration readEvery) {}

  /** What there is, and how it is covered. */
  record ElsewhereView(List<StoreView> stores, Coverages.ProjectCoverage coverage) {}

  ElsewhereView of(UUID project) {
    Kept kept = projects.kept(project);
    return new ElsewhereView(
        kept.offsite().standing(kept.project()).stream().map(StoreView::of).toList(),
        coverages.of(kept));
  }

  /** A store as it would be used by nobody in particular. */
  StoreAddress at(Place place) {
    String address = place.address();
    if (!address.startsWith("s3://")) {
      Path folder = guard.folder(address);
      address = folder.toUri().toString().replaceAll("/$", "");
    } else if (place.service() == null || !isWeb(place.service())) {
      throw ProblemException.badInput(
          "no-service",
          "A bucket needs the address of its service, http://… or https://…. Nothing was asked.");
    }
    return new StoreAddress(
        UNMARKED,
        "",
        address,
        "",
        place.service(),
        place.region(),
        place.key(),
        place.authority(),
        place.seal(),
        null,
        null,
        null,
        0,
        false,
        null);
  }

  private static boolean isWeb(String service) {
    try {
      String scheme = URI.create(service).getScheme();
      return "http".equals(scheme) || "https".equals(scheme);
    } catch (IllegalArgumentException malformed) {
      return false;
    }
  }

  private interface Asking<T> {
    T of(Store store) throws IOException;
  }

  private <T> T ask(StoreAddress address, Asking<T> asking) {
    try (Store store = engine.stores().open(address)) {
      return asking.of(store);
    } catch (IOException no) {
      throw ProblemException.away(
          address.address() + " could not be used: " + no.getMessage() + ". Nothing was sent.", no);
    }
  }

  /** Projects that a store has; it is asked now. */
  List<OffsiteRecovery.Found> found(StoreAddress address) {
    return ask(address, OffsiteRecovery::projects);
  }

  /** From now on a project is sent there; the store is asked first, and marked. */
  ElsewhereView add(UUID project, Place place, Use use, String who) throws IOException {
    Kept kept = projects.kept(project);
    StoreAddress at = at(place);
    UUID mark = ask(at, store -> mark(store, at).id());
    boolean already = stores(kept).stream().anyMatch(s -> s.id().equals(mark));
    if (already) {
      throw ProblemException.conflict(
          "already-a-store", place.address() + " takes copies of this project already.");
    }
    String begin = StoreAddress.begin(kept.project().slug(), project);
    set(kept, used(at, mark, begin, use), true, who);
    return of(project);
  }

  /** Marks a store that is begun, encrypted if it is to be. */
  StoreMark mark(Store store, StoreAddress at) throws IOException {
    String passphrase = at.seal() == null ? null : passphrases.of(at.seal());
    return StoreMark.ensure(store, clock.instant(), passphrase);
  }

  /** Changes how a store is used, not where it is. */
  ElsewhereView change(UUID project, UUID id, Use use, String who) throws IOException {
    Kept kept = projects.kept(project);
    StoreAddress known = store(kept, id);
    set(kept, used(known, id, known.begin(), use), true, who);
    return of(project);
  }

  /** Nothing more is sent there; what is there stays. */
  ElsewhereView leave(UUID project, UUID id, String who) throws IOException {
    Kept kept = projects.kept(project);
    set(kept, store(kept, id), false, who);
    return of(project);
  }

  ElsewhereView want(UUID project, Rule rule, String who) throws IOException {
    Kept kept = projects.kept(project);
    kept.folders()
        .record(
            new CoverageSet(
                clock.instant(), project, who, rule.copies(), rule.disks(), rule.elsewhere()));
    return of(project);
  }

  private static List<StoreAddress> stores(Kept kept) {
    return new Elsewhere(kept.folders().history()).stores(kept.project().id());
  }

  private static StoreAddress store(Kept kept, UUID id) {
    return stores(kept).stream()
        .filter(s -> s.id().equals(id))
        .findFirst()
        .orElseThrow(
            () -> ProblemException.notFound("This project is not sent to such a store: " + id));
  }

  private void set(Kept kept, StoreAddress store, boolean on, String who) throws IOException {
    kept.folders().record(new StoreSet(clock.instant(), kept.project().id(), who, store, on));
  }

  static StoreAddress used(StoreAddress at, UUID id, String begin, Use use) {
    try {
      return new StoreAddress(
          id,
          use.name(),
          at.address(),
          begin,
          at.service(),
          at.region(),
          at.key(),
          at.authority(),
          at.seal(),
          use.keep(),
          use.from(),
          use.to(),
          use.bytesPerSecond(),
          use.paused(),
          use.readEvery());
    } catch (IllegalArgumentException wrong) {
      throw ProblemException.badInput("bad-store", wrong.getMessage() + ". Nothing was changed.");
    }
  }
}
