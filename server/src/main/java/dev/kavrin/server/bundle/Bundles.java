package dev.kavrin.server.bundle;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.bundle.BagCheck;
import dev.kavrin.core.bundle.BagReport;
import dev.kavrin.core.bundle.BagWriter;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.picture.Frame;
import dev.kavrin.core.relink.Relink;
import dev.kavrin.server.bundle.PackJobs.BundleView;
import dev.kavrin.server.bundle.Packing.Choice;
import dev.kavrin.server.bundle.Packing.Packed;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.platform.Scratch;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.version.VersionService;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.LongConsumer;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/** Packs bundles and reads them back. */
@Service
class Bundles implements JobKinds {
  private final Packing packing;
  private final VersionService trail;
  private final ReaderProcess reader;
  private final Scratch scratch;
  private final Settings settings;
  private final PathGuard guard;
  private final Disk disk;
  private final BagWriter writer;
  private final Bags bags;
  private final PackJobs jobs;
  private final JobKind<Wanted> bundling;
  private final InstantSource clock;

  Bundles(
      Packing packing,
      VersionService trail,
      ReaderProcess reader,
      Scratch scratch,
      Settings settings,
      PathGuard guard,
      Disk disk,
      Publisher publisher,
      Bags bags,
      PackJobs jobs,
      InstantSource clock) {
    this.packing = packing;
    this.trail = trail;
    this.reader = reader;
    this.scratch = scratch;
    this.settings = settings;
    this.guard = guard;
    this.disk = disk;
    this.writer = new BagWriter(disk, publisher);
    this.bags = bags;
    this.jobs = jobs;
    this.bundling = jobs.kind("bundle", Wanted.class, this::prepared);
    this.clock = clock;
  }

  /**
   * What is said in the bundle itself.
   *
   * @param mark the states are frozen under, such as "issued"; empty for none
   */
  record Said(String name, String note, String questions, String mark, String who) {}

  /**
   * What is wanted.
   *
   * @param allowed files outside or likely secret that go along, by where they lie
   * @param target folder that becomes the bundle, or ZIP if it ends so
   */
  record Wanted(List<Choice> choices, Set<String> allowed, String target, Said said) {}

  /**
   * Begins to pack; the same order into the same folder goes on where it stopped.
   *
   * @throws ProblemException another one is being packed
   * @throws NoRoomException too little room
   */
  BundleView pack(Wanted wanted) throws IOException {
    return jobs.begin(bundling, wanted, prepared(wanted), wanted.said().who());
  }

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(bundling);
  }

  private PackJobs.Prepared prepared(Wanted wanted) throws IOException {
    Path target = guard.target(wanted.target());
    boolean zip = Bags.isZip(target);
    Packed all = packing.of(wanted.choices());
    Packed packed = all.allowing(wanted.allowed());
    List<String> leftOut = all.leftOut(wanted.allowed());
    return new PackJobs.Prepared(
        target,
        zip ? target.getParent() : target,
        packed.bytes(),
        onTheWay -> {
          written(
              packed,
              leftOut,
              wanted.said(),
              zip ? writer::writeZip : writer::write,
              target,
              onTheWay);
          freeze(packed, wanted.said());
          return "Packed and read back.";
        });
  }

  /** Into a folder or into a ZIP. */
  private interface Writing {
    BagWriter.Packed write(BagWriter.Order order, Path target, LongConsumer onTheWay)
        throws IOException;
  }

  private void written(
      Packed packed,
      List<String> leftOut,
      Said said,
      Writing writing,
      Path target,
      LongConsumer onTheWay)
      throws IOException {
    long renamed =
        packed.files().stream().filter(f -> !f.names().isEmpty()).mapToLong(PackedFile::size).sum();
    scratch.writing(
        target.getParent(),
        2 * renamed,
        folder -> writing.write(order(packed, leftOut, said, folder), target, onTheWay));
  }

  /** A marked state is never dropped by a plan. */
  private void freeze(Packed packed, Said said) throws IOException {
    if (said.mark().isBlank()) {
      return;
    }
    for (Choice one :
        packed.files().stream()
            .filter(f -> f.state() != null)
            .map(f -> new Choice(f.document(), f.state()))
            .distinct()
            .toList()) {
      trail.mark(one.document(), one.state(), said.mark(), true, said.who(), said.name());
    }
  }

  private BagWriter.Order order(Packed packed, List<String> leftOut, Said said, Path folder)
      throws IOException {
    List<BagWriter.Item> items = new ArrayList<>();
    for (PackedFile file : packed.files()) {
      Path source = Path.of(file.source());
      if (!file.names().isEmpty()) {
        String name = Path.of(file.original()).getFileName().toString();
        Path written = folder.resolve(items.size() + "-" + name);
        proven(file, reader.relink(source, name, file.names(), written));
        disk.touch(written, disk.facts(source).orElseThrow().modifiedNanos());
        source = written;
      }
      items.add(new BagWriter.Item(source, file.path()));
    }
    Instant now = clock.instant();
    ZoneId zone = settings.zone();
    Map<String, String> info = new LinkedHashMap<>();
    info.put("Contact-Name", said.who());
    info.put("External-Description", said.name());
    info.put("Bag-Software-Agent", "Kavrin");
    Map<String, String> texts = new LinkedHashMap<>();
    texts.put(
        "START-HERE.html", new HandOver(packed, said, now, zone).page(this::picture, leftOut));
    texts.put("README.txt", readme(packed, leftOut, said));
    texts.put("contents.json", contents(packed, leftOut, said));
    return new BagWriter.Order(items, texts, info, LocalDate.ofInstant(now, zone));
  }

  private static void proven(PackedFile file, Relink.Written written) throws IOException {
    if (!written.isProven()) {
      throw new IOException(
          "Other names cannot be written into "
              + file.original()
              + ": "
              + String.join("; ", written.unequal()));
    }
  }

  private byte[] picture(PackedFile file) {
    try {
      String name = Path.of(file.original()).getFileName().toString();
      return reader.picture(Path.of(file.source()), name, Frame.SMALL);
    } catch (ProblemException nothingToSee) {
      return new byte[0];
    }
  }

  /** One file in the list for machines; where it lay on this machine is nobody's business. */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  private record Listed(
      String path,
      String original,
      String kind,
      @Nullable String state,
      @Nullable Instant work,
      long size,
      boolean asNow,
      Map<String, String> names) {}

  private static String contents(Packed packed, List<String> leftOut, Said said) {
    Map<String, Object> contents = new LinkedHashMap<>();
    contents.put("name", said.name());
    contents.put("mark", said.mark());
    contents.put("note", said.note());
    contents.put("questions", said.questions());
    contents.put(
        "files",
        packed.files().stream()
            .map(
                f ->
                    new Listed(
                        f.path(),
                        Packing.shown(f.original()),
                        f.kind(),
                        f.state(),
                        f.work(),
                        f.size(),
                        f.asNow(),
                        f.names()))
            .toList());
    contents.put("missing", packed.missing());
    contents.put("leftOut", leftOut.stream().map(Packing::shown).toList());
    return JsonMapper.shared().writerWithDefaultPrettyPrinter().writeValueAsString(contents) + "\n";
  }

  private static String readme(Packed packed, List<String> leftOut, Said said) {
    StringBuilder text = new StringBuilder(said.name()).append("\n\n");
    section(text, "", said.note());
    section(text, "Open questions:\n", said.questions());
    text.append("Open first, in the folder data:\n");
    packed.files().stream()
        .filter(PackedFile::isDocument)
        .forEach(f -> text.append("  ").append(f.path()).append('\n'));
    text.append("\nEverything they use lies beside them; paths are relative.\n");
    packed
        .missing()
        .forEach(
            (document, links) ->
                text.append("Missing when this was packed, for ")
                    .append(document)
                    .append(": ")
                    .append(String.join(", ", links))
                    .append('\n'));
    leftOut.forEach(f -> text.append("Left out: ").append(Packing.shown(f)).append('\n'));
    return text.append(
            "\nSTART-HERE.html tells the same with pictures, to be read or printed.\n"
                + "This is a bag by RFC 8493: manifest-sha256.txt has the digest of each file.\n")
        .toString();
  }

  private static void section(StringBuilder text, String title, String words) {
    if (!words.isBlank()) {
      text.append(title).append(words.strip()).append("\n\n");
    }
  }

  BagReport check(String folder) throws IOException {
    return new BagCheck(disk).of(bags.at(folder));
  }
}
