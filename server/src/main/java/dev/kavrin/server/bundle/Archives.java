package dev.kavrin.server.bundle;

import dev.kavrin.core.bundle.Archive;
import dev.kavrin.core.bundle.BagCheck;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import dev.kavrin.server.bundle.ArchivedFiles.Archived;
import dev.kavrin.server.bundle.ArchivedFiles.Found;
import dev.kavrin.server.bundle.ArchivedFiles.From;
import dev.kavrin.server.bundle.PackJobs.BundleView;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.project.ProjectService;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.LongConsumer;
import org.springframework.stereotype.Service;

/** The final archive of a project: everything that belongs to it, smaller, not a bit lost. */
@Service
class Archives implements JobKinds {
  private static final String STATES = "states.csv";

  private final ProjectService projects;
  private final ArchivedFiles everything;
  private final Bags bags;
  private final PackJobs jobs;
  private final JobKind<Wanted> archiving;
  private final JobKind<Back> bringingBack;
  private final PathGuard guard;
  private final Disk disk;
  private final Archive archive;
  private final Settings settings;
  private final InstantSource clock;

  Archives(
      ProjectService projects,
      ArchivedFiles everything,
      Bags bags,
      PackJobs jobs,
      PathGuard guard,
      Disk disk,
      Publisher publisher,
      Settings settings,
      InstantSource clock) {
    this.projects = projects;
    this.everything = everything;
    this.bags = bags;
    this.jobs = jobs;
    this.archiving = jobs.kind("archive", Wanted.class, this::prepared);
    this.bringingBack = jobs.kind("bring-back", Back.class, this::prepared);
    this.guard = guard;
    this.disk = disk;
    this.archive = new Archive(disk, publisher);
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * A file that goes along only if a person says so.
   *
   * @param path in the project, or a whole path if it lies outside
   * @param why "outside" or "secret"
   */
  record AskedFile(String path, long bytes, String why) {}

  /** So many files. */
  record Share(int files, long bytes) {
    static Share of(Found found, From from) {
      List<Archived> files = found.files().stream().filter(f -> f.from() == from).toList();
      return new Share(files.size(), sum(files));
    }
  }

  /**
   * What an archive of a project would hold.
   *
   * @param bytes of all of it
   * @param inFolder what lies in the folder of the project
   * @param earlier states that lie elsewhere only
   * @param asked about, one by one
   * @param unreadable folders that cannot be looked into
   * @param unreachable what belongs to it and cannot be read now, in words
   */
  record ArchivePreview(
      String folder,
      long bytes,
      Share inFolder,
      Share earlier,
      List<AskedFile> asked,
      List<String> unreadable,
      List<String> unreachable) {}

  private static long sum(List<Archived> files) {
    return files.stream().mapToLong(Archived::bytes).sum();
  }

  ArchivePreview preview(UUID project) throws IOException {
    Found found = everything.of(project);
    return new ArchivePreview(
        found.folder().toString(),
        sum(found.files()),
        Share.of(found, From.FOLDER),
        Share.of(found, From.EARLIER),
        found.files().stream()
            .filter(f -> f.ask() != null)
            .map(f -> new AskedFile(f.here(), f.bytes(), f.ask()))
            .toList(),
        found.unreadable(),
        found.unreachable());
  }

  /**
   * Begins to archive; the same order into the same folder goes on where it stopped.
   *
   * @param allowed of the files asked about, those that go along
   */
  BundleView pack(UUID project, String target, Set<String> allowed, String note, String who)
      throws IOException {
    Wanted wanted = new Wanted(project, target, allowed, note, who);
    return jobs.begin(archiving, wanted, prepared(wanted), who);
  }

  /** An archive that is to be. */
  record Wanted(UUID project, String target, Set<String> allowed, String note, String who) {}

  /** An archive whose files are to be brought back. */
  record Back(String bag, String target) {}

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(archiving, bringingBack);
  }

  private PackJobs.Prepared prepared(Wanted wanted) throws IOException {
    Path bag = guard.target(wanted.target());
    Found found = everything.of(wanted.project());
    if (bag.startsWith(found.folder())) {
      throw ProblemException.badInput(
          "inside", bag + " lies in what is archived. Choose a folder outside of it.");
    }
    List<Archived> files =
        found.files().stream()
            .filter(f -> f.ask() == null || wanted.allowed().contains(f.here()))
            .toList();
    String name = projects.byId(wanted.project()).name();
    Archive.Order order =
        new Archive.Order(
            files.stream().map(f -> new Archive.Source(f.file(), f.original())).toList(),
            Map.of("README.txt", readme(name, wanted.note()), STATES, found.states()),
            Map.of(
                "Contact-Name",
                wanted.who(),
                "External-Description",
                name,
                "Bag-Software-Agent",
                "Kavrin"),
            LocalDate.ofInstant(clock.instant(), settings.zone()));
    return new PackJobs.Prepared(bag, bag, sum(files), onTheWay -> written(order, bag, onTheWay));
  }

  private String written(Archive.Order order, Path bag, LongConsumer onTheWay) throws IOException {
    Instant began = clock.instant();
    Archive.Made made = archive.write(order, bag, onTheWay);
    return Words.count(made.files(), "file")
        + ", each read back bit for bit: "
        + Sizes.words(made.after())
        + " instead of "
        + Sizes.words(made.before())
        + ", in "
        + Words.age(Duration.between(began, clock.instant()))
        + ".";
  }

  private static String readme(String name, String note) {
    return name
        + "\n\n"
        + (note.isBlank() ? "" : note.strip() + "\n\n")
        + "Everything of this work lies in the folder data; archive.json says what each file was"
        + " called.\nEarlier versions lie in the folder \""
        + ArchivedFiles.EARLIER
        + "\"; "
        + STATES
        + " lists every version and the file that holds it.\nFiles that end in .zst are packed by Zstandard (RFC 8878), those in .bmp.png"
        + " and .tif.png are pictures with the same points.\nThis is a bag by RFC 8493:"
        + " manifest-sha256.txt has the digest of each file.\n";
  }

  /** What an archive in a folder holds; nothing for a bag that is none. */
  int files(String bag) throws IOException {
    return archive.list(bags.at(bag)).size();
  }

  /** Begins to bring every file back under its own name into a new folder. */
  BundleView bringBack(String bag, String target, String who) throws IOException {
    Back wanted = new Back(bag, target);
    return jobs.begin(bringingBack, wanted, prepared(wanted), who);
  }

  private PackJobs.Prepared prepared(Back wanted) throws IOException {
    String bag = wanted.bag();
    Path from = bags.at(bag);
    Path into = guard.target(wanted.target());
    List<Archive.Listed> listed = archive.list(from);
    if (listed.isEmpty()) {
      throw ProblemException.badInput("no-archive", bag + " is no archive of Kavrin's.");
    }
    if (!new BagCheck(disk).of(from).isValid()) {
      throw ProblemException.conflict(
          "not-valid", bag + " is not what was packed; check it first. Nothing was written.");
    }
    if (disk.facts(into).isPresent() && !disk.list(into).isEmpty()) {
      throw ProblemException.conflict(
          "not-empty", into + " is not empty. Nothing was written; choose a new folder.");
    }
    long bytes = listed.stream().mapToLong(l -> Archive.length(l)).sum();
    return new PackJobs.Prepared(
        into,
        into,
        bytes,
        onTheWay ->
            Words.count(
                    archive.bringBack(from, into, path -> guard.target(path.toString()), onTheWay),
                    "file")
                + " are back under their own names, bit for bit.");
  }
}
