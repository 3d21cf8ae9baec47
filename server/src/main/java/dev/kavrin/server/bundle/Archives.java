package dev.kavrin.server.bundle;

import dev.kavrin.core.bundle.Archive;
import dev.kavrin.core.bundle.BagCheck;
import dev.kavrin.core.bundle.Secrets;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import dev.kavrin.server.bundle.PackJobs.BundleView;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.platform.Walk;
import dev.kavrin.server.project.ProjectService;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.LongConsumer;
import org.springframework.stereotype.Service;

/** The final archive of a project: everything in its folder, smaller, not a bit lost. */
@Service
class Archives {
  private final ProjectService projects;
  private final Bags bags;
  private final PackJobs jobs;
  private final PathGuard guard;
  private final Disk disk;
  private final Archive archive;
  private final Settings settings;
  private final InstantSource clock;

  Archives(
      ProjectService projects,
      Bags bags,
      PackJobs jobs,
      PathGuard guard,
      Disk disk,
      Publisher publisher,
      Settings settings,
      InstantSource clock) {
    this.projects = projects;
    this.bags = bags;
    this.jobs = jobs;
    this.guard = guard;
    this.disk = disk;
    this.archive = new Archive(disk, publisher);
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * What an archive of a project would hold.
   *
   * @param secrets files whose names say that they hold a secret; each goes along only if allowed
   * @param unreadable folders that cannot be looked into
   */
  record ArchivePreview(
      String folder, int files, long bytes, List<String> secrets, List<String> unreadable) {}

  private record Found(Path folder, List<String> files, long bytes, List<String> unreadable) {
    List<String> secrets() {
      return files.stream()
          .filter(f -> Secrets.isLikely(Path.of(f).getFileName().toString()))
          .toList();
    }
  }

  private Found found(UUID project) throws IOException {
    Path folder = guard.folder(projects.byId(project).folder());
    List<String> files = new ArrayList<>();
    List<String> unreadable = new ArrayList<>();
    long[] bytes = new long[1];
    new Walk(disk, () -> false)
        .through(
            folder,
            new Walk.Visitor() {
              @Override
              public void folder(Path entered) {}

              @Override
              public void file(Path file, FileFacts facts) {
                files.add(folder.relativize(file).toString());
                bytes[0] += facts.size();
              }

              @Override
              public void closed(Path closed) {
                unreadable.add(folder.relativize(closed).toString());
              }
            });
    files.sort(null);
    return new Found(folder, files, bytes[0], unreadable);
  }

  ArchivePreview preview(UUID project) throws IOException {
    Found found = found(project);
    return new ArchivePreview(
        found.folder().toString(),
        found.files().size(),
        found.bytes(),
        found.secrets(),
        found.unreadable());
  }

  /**
   * Begins to archive; the same order into the same folder goes on where it stopped.
   *
   * @param allowed secrets that go along
   */
  BundleView pack(UUID project, String target, Set<String> allowed, String note, String who)
      throws IOException {
    Path bag = guard.folderToMake(target);
    Found found = found(project);
    if (bag.startsWith(found.folder())) {
      throw ProblemException.badInput(
          "inside", bag + " lies in what is archived. Choose a folder outside of it.");
    }
    List<String> secrets = found.secrets();
    List<String> files =
        found.files().stream().filter(f -> !secrets.contains(f) || allowed.contains(f)).toList();
    String name = projects.byId(project).name();
    Archive.Order order =
        new Archive.Order(
            found.folder(),
            files,
            Map.of("README.txt", readme(name, note)),
            Map.of(
                "Contact-Name", who,
                "External-Description", name,
                "Bag-Software-Agent", "Kavrin"),
            LocalDate.ofInstant(clock.instant(), settings.zone()));
    return jobs.begin(bag, bag, found.bytes(), onTheWay -> written(order, bag, onTheWay));
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
        + " called.\nFiles that end in .zst are packed by Zstandard (RFC 8878), those in .bmp.png"
        + " and .tif.png are pictures with the same points.\nThis is a bag by RFC 8493:"
        + " manifest-sha256.txt has the digest of each file.\n";
  }

  /** What an archive in a folder holds; nothing for a bag that is none. */
  int files(String bag) throws IOException {
    return archive.list(bags.at(bag)).size();
  }

  /** Begins to bring every file back under its own name into a new folder. */
  BundleView bringBack(String bag, String target) throws IOException {
    Path from = bags.at(bag);
    Path into = guard.folderToMake(target);
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
    return jobs.begin(
        into,
        into,
        bytes,
        onTheWay ->
            Words.count(
                    archive.bringBack(
                        from, into, path -> guard.folderToMake(path.toString()), onTheWay),
                    "file")
                + " are back under their own names, bit for bit.");
  }
}
