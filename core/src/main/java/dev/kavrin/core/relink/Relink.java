package dev.kavrin.core.relink;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.compare.FileComparison.Source;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.Formats;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.LinkWriter;
import dev.kavrin.core.content.LinkWriter.Patch;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.PartWriter.Opened;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SinkStream;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.SiblingFilesOnDisk;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Writes a version of a file that names other files, and proves it by reading it back. */
public final class Relink {
  /** Stands for every name when all the rest is compared. */
  private static final String ANY = "any";

  private final Disk disk;
  private final Publisher publisher;

  public Relink(Disk disk, Publisher publisher) {
    this.disk = disk;
    this.publisher = publisher;
  }

  /**
   * A name that was changed.
   *
   * @param places how often it stands in the file
   */
  public record Renamed(String from, String to, int places) {}

  /**
   * What was written.
   *
   * @param unequal what is not as it should be, in words; empty if it is proven
   */
  public record Written(List<Renamed> renamed, List<String> unequal) {
    public boolean isProven() {
      return unequal.isEmpty();
    }
  }

  /** True if names can be changed in files of that name. */
  public static boolean canWrite(String name) {
    return writer(name).isPresent();
  }

  private static Optional<LinkWriter> writer(String name) {
    return Formats.named(name).flatMap(Format::links);
  }

  /** A path with forward slashes as a file of that name would write it. */
  public static String written(String name, String path) {
    return writer(name).map(w -> w.written(path)).orElse(path);
  }

  /**
   * Writes the file with other names in it under a new name; it stays as it is itself.
   *
   * @param names what to write by what stands there, as {@link LinkWriter} takes them
   * @throws CannotTake nothing was written; its words say why
   */
  public Written write(Source base, Map<String, String> names, Path target) throws IOException {
    LinkWriter writer =
        writer(base.name())
            .orElseThrow(() -> new CannotTake("Names cannot be changed in files of this kind."));
    List<Link> before = links(base);
    List<Renamed> renamed =
        names.entrySet().stream()
            .map(n -> new Renamed(n.getKey(), n.getValue(), places(before, n.getKey())))
            .toList();
    for (Renamed one : renamed) {
      if (one.places() == 0) {
        throw new CannotTake(one.from() + " is not named in the file as it is now.");
      }
    }
    try (SeekableByteChannel in = disk.read(base.file())) {
      List<Patch> patches = writer.patches(opened(base, in), names);
      publisher.publish(
          target,
          sink -> {
            OutputStream out = new BufferedOutputStream(new SinkStream(sink), 1 << 16);
            copy(in, patches, out);
            out.flush();
          },
          PublishCheck.NONE);
    }
    Source made = new Source(target, base.name(), base.once());
    return new Written(renamed, unequal(writer, base, made, names, before));
  }

  private static int places(List<Link> links, String uri) {
    return (int) links.stream().filter(l -> l.uri().equals(uri)).count();
  }

  private static void copy(SeekableByteChannel in, List<Patch> patches, OutputStream out)
      throws IOException {
    long at = 0;
    for (Patch patch : patches) {
      Bytes.between(in, at, patch.from()).transferTo(out);
      out.write(patch.with());
      at = patch.to();
    }
    Bytes.between(in, at, in.size()).transferTo(out);
  }

  /** Its names are those that were asked for, and all but its names is what it was. */
  private List<String> unequal(
      LinkWriter writer, Source base, Source made, Map<String, String> names, List<Link> before)
      throws IOException {
    List<String> unequal = new ArrayList<>();
    List<String> wanted =
        before.stream().map(l -> names.getOrDefault(l.uri(), l.uri())).distinct().sorted().toList();
    List<Link> after = links(made);
    if (!after.stream().map(Link::uri).distinct().sorted().toList().equals(wanted)) {
      unequal.add("The names in it are not those that were asked for");
    }
    if (!rest(writer, base, before).equals(rest(writer, made, after))) {
      unequal.add("More than the names in it is not what it was");
    }
    return unequal;
  }

  private List<Link> links(Source source) {
    return new HealthCheck(disk, source.once())
        .inspect(source.file(), source.name())
        .inventory()
        .links();
  }

  /** The content of the file with every name in it written as one and the same. */
  private ContentId rest(LinkWriter writer, Source source, List<Link> links) throws IOException {
    Map<String, String> any = new HashMap<>();
    links.forEach(l -> any.put(l.uri(), ANY));
    ContentHash hash = new ContentHash();
    try (SeekableByteChannel in = disk.read(source.file())) {
      copy(
          in,
          writer.patches(opened(source, in), any),
          new OutputStream() {
            @Override
            public void write(int b) {
              hash.add(new byte[] {(byte) b}, 0, 1);
            }

            @Override
            public void write(byte[] bytes, int from, int count) {
              hash.add(bytes, from, count);
            }
          });
    }
    return hash.id();
  }

  private Opened opened(Source source, SeekableByteChannel in) {
    return new Opened(
        in, source.name(), new SiblingFilesOnDisk(disk, source.file(), source.once()));
  }
}
