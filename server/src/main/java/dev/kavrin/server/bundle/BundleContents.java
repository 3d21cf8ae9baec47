package dev.kavrin.server.bundle;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.bundle.BagCheck;
import dev.kavrin.core.bundle.BagFiles;
import dev.kavrin.core.bundle.BagReport;
import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Span;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Scratch;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionService;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.stereotype.Service;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Bundles held against the trails here, and what they hold taken in. Any writer's will do. */
@Service
class BundleContents {
  /** The mark of what was taken in; a marked state stays, whatever the plan says. */
  static final String TAKEN_IN = "taken in";

  private static final String DATA = "data/";
  private static final String LIST = "contents.json";

  /** A longer list is nobody's. */
  private static final long LARGEST_LIST = 64_000_000;

  private final ProjectService projects;
  private final VersionFiles files;
  private final VersionService trail;
  private final Scratch scratch;
  private final Bags bags;
  private final Disk disk;
  private final Publisher publisher;

  BundleContents(
      ProjectService projects,
      VersionFiles files,
      VersionService trail,
      Scratch scratch,
      Bags bags,
      Disk disk,
      Publisher publisher) {
    this.projects = projects;
    this.files = files;
    this.trail = trail;
    this.scratch = scratch;
    this.bags = bags;
    this.disk = disk;
    this.publisher = publisher;
  }

  /**
   * A file of a bundle, held against the trails.
   *
   * @param work when the work in it was done, by the bundle's own list or the file's time
   * @param holder document whose trail has exactly that, null if none has
   * @param state that holds it
   * @param fits a document of the same name here it could be taken in to, null if there is none
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record BundledFile(
      String path,
      long size,
      @Nullable Instant work,
      @Nullable UUID holder,
      @Nullable String holderPath,
      @Nullable String state,
      @Nullable UUID fits,
      @Nullable String fitsPath) {}

  List<BundledFile> of(String at) throws IOException {
    Path bag = bags.at(at);
    Map<Long, Document> byKey = new HashMap<>();
    Map<String, Document> byName = new HashMap<>();
    for (Document document : documents()) {
      byKey.put(document.key(), document);
      byName.put(document.live().getFileName().toString(), document);
    }
    List<BundledFile> found = new ArrayList<>();
    try (BagFiles bagged = BagFiles.at(disk, bag)) {
      Map<String, Long> sizes = bagged.list(odd -> {});
      Map<String, Instant> works = works(bagged, sizes);
      for (Map.Entry<String, Long> file : sizes.entrySet()) {
        if (file.getKey().startsWith(DATA)) {
          String path = file.getKey().substring(DATA.length());
          VersionFiles.Holder holder =
              files.holders(identify(bagged, file.getKey())).stream()
                  .filter(h -> byKey.containsKey(h.document()))
                  .findFirst()
                  .orElse(null);
          Document held = holder == null ? null : byKey.get(holder.document());
          Document fits = held == null ? byName.get(Path.of(path).getFileName().toString()) : null;
          found.add(
              new BundledFile(
                  path,
                  file.getValue(),
                  holder == null ? works.get(path) : holder.work(),
                  held == null ? null : held.id(),
                  held == null ? null : held.path(),
                  holder == null ? null : holder.state(),
                  fits == null ? null : fits.id(),
                  fits == null ? null : fits.path()));
        }
      }
    }
    return found;
  }

  private List<Document> documents() {
    return projects.all().stream().flatMap(p -> projects.documents(p.id()).stream()).toList();
  }

  private static ContentId identify(BagFiles bagged, String path) throws IOException {
    ContentHash hash = new ContentHash();
    try (InputStream in = bagged.open(path)) {
      byte[] block = new byte[1 << 17];
      for (int n = in.read(block); n >= 0; n = in.read(block)) {
        hash.add(block, 0, n);
      }
    }
    return hash.id();
  }

  /** When the work in each was done, by Kavrin's own list; nothing for bundles without one. */
  private static Map<String, Instant> works(BagFiles bagged, Map<String, Long> sizes)
      throws IOException {
    Map<String, Instant> works = new HashMap<>();
    if (sizes.getOrDefault(LIST, Long.MAX_VALUE) < LARGEST_LIST) {
      try (InputStream in = bagged.open(LIST)) {
        for (JsonNode file : JsonMapper.shared().readTree(in).path("files")) {
          if (file.has("work")) {
            works.put(file.path("path").asString(""), Instant.parse(file.path("work").asString()));
          }
        }
      } catch (JacksonException | java.time.DateTimeException another) {
        works.clear();
      }
    }
    return works;
  }

  /**
   * Takes a file of a bundle in as a state of a document; the document itself stays as it is.
   *
   * @param path of the file in the bundle, below its payload
   * @throws ProblemException the bundle is not valid, or the file is not in it or damaged
   */
  void takeIn(String at, String path, UUID into, String who) throws IOException {
    Path bag = bags.at(at);
    Document document = projects.document(into);
    BagReport report = new BagCheck(disk).of(bag);
    String named = DATA + path;
    if (!report.payload().contains(named)) {
      throw ProblemException.notFound(path + " is not in that bundle. Nothing was taken in.");
    }
    if (report.altered().contains(named) || report.extra().contains(named)) {
      throw ProblemException.conflict(
          "not-as-packed",
          path + " is not what was packed: its digest is another. Nothing was taken in.");
    }
    try (BagFiles bagged = BagFiles.at(disk, bag)) {
      Map<String, Long> sizes = bagged.list(odd -> {});
      Instant told = works(bagged, sizes).get(path);
      boolean zip = disk.facts(bag).filter(FileFacts::isFile).isPresent();
      Path origin = zip ? bag : bag.resolve(named);
      Instant work = told == null ? disk.facts(origin).orElseThrow().modified() : told;
      long bytes = sizes.get(named);
      scratch.with(
          bytes,
          folder -> {
            Path source = folder.resolve(document.live().getFileName());
            publisher.publish(
                source,
                sink -> {
                  try (InputStream in = bagged.open(named)) {
                    in.transferTo(new dev.kavrin.core.disk.SinkStream(sink));
                  }
                },
                PublishCheck.NONE);
            return taken(document, source, origin, work, who);
          });
    }
  }

  private String taken(Document document, Path source, Path origin, Instant work, String who)
      throws IOException {
    Kept kept = projects.kept(document.project());
    String state =
        kept.watch()
            .takeIn(
                new BackupOrder(
                    kept.project(),
                    document.id(),
                    document.path(),
                    source,
                    origin,
                    CopyKind.STRAY,
                    CopyKind.CAPTURE,
                    Span.at(work),
                    "from a bundle",
                    null,
                    null,
                    BackupOrder.How.CAREFULLY))
            .capture()
            .state();
    trail.look(document.id());
    trail.mark(document.id(), state, TAKEN_IN, true, who, origin.toString());
    return state;
  }
}
