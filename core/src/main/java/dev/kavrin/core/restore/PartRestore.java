package dev.kavrin.core.restore;

import dev.kavrin.core.compare.FileComparison.Source;
import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.Formats;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.PartWriter;
import dev.kavrin.core.content.PartWriter.Brought;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.PartWriter.Opened;
import dev.kavrin.core.content.PartWriter.Wanted;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SinkStream;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.SiblingFilesOnDisk;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/**
 * Writes a version of a file with parts of other states in it, and proves it by reading it back.
 */
public final class PartRestore {
  /** Elements of a kind, only counted. */
  private static final String COUNT = "element";

  /** What may come along without having been asked for. */
  private static final Set<String> COMES_ALONG =
      Set.of("group", "picture", "block", "layer", "shape", "section", COUNT);

  private final Disk disk;
  private final Publisher publisher;

  public PartRestore(Disk disk, Publisher publisher) {
    this.disk = disk;
    this.publisher = publisher;
  }

  /**
   * @param parts ids in what the source holds
   */
  public record Pick(Source from, List<String> parts) {}

  /**
   * What was written.
   *
   * @param untouched how many other parts are equal by fingerprint to what they were
   * @param unequal what is not as it should be, in words; empty if it is proven
   */
  public record Written(List<Brought> brought, int untouched, List<String> unequal) {
    public boolean isProven() {
      return unequal.isEmpty();
    }
  }

  /** True if parts can be brought into files of that name. */
  public static boolean canTake(String name) {
    return writer(name).isPresent();
  }

  private static Optional<PartWriter> writer(String name) {
    return Formats.named(name).flatMap(Format::parts);
  }

  /**
   * Writes the base with the parts in it under a new name; base and sources stay as they are.
   *
   * @throws CannotTake nothing was written; its words say why
   */
  public Written write(Source base, List<Pick> picks, Path target) throws IOException {
    PartWriter writer =
        writer(base.name())
            .orElseThrow(() -> new CannotTake("Parts cannot be taken out of files of this kind."));
    List<Brought> brought = new ArrayList<>();
    List<SeekableByteChannel> open = new ArrayList<>();
    try {
      Opened into = opened(base, open);
      List<Wanted> wanted = new ArrayList<>();
      for (Pick pick : picks) {
        wanted.add(new Wanted(opened(pick.from(), open), pick.parts()));
      }
      publisher.publish(
          target,
          sink -> {
            OutputStream out = new BufferedOutputStream(new SinkStream(sink), 1 << 16);
            brought.addAll(writer.write(into, wanted, out));
            out.flush();
          },
          PublishCheck.NONE);
    } finally {
      for (SeekableByteChannel channel : open) {
        channel.close();
      }
    }
    return proven(base, picks, target, brought);
  }

  private Opened opened(Source source, List<SeekableByteChannel> open) throws IOException {
    SeekableByteChannel in = disk.read(source.file());
    open.add(in);
    return new Opened(
        in, source.name(), new SiblingFilesOnDisk(disk, source.file(), source.once()));
  }

  private Written proven(Source base, List<Pick> picks, Path target, List<Brought> brought) {
    List<String> unequal = new ArrayList<>();
    HealthReport report =
        new HealthCheck(disk)
            .inspect(target, base.name(), new SiblingFilesOnDisk(disk, base.file(), base.once()));
    HealthReport before = inventory(base);
    report.findings().stream()
        .filter(f -> !before.findings().contains(f))
        .filter(f -> f.severity() == Finding.Severity.DAMAGED)
        .forEach(f -> unequal.add(f.words()));
    Map<String, Part> now = byId(report.inventory());
    Map<String, Part> was = byId(before.inventory());
    Set<String> expected = new HashSet<>();
    int at = 0;
    for (Pick pick : picks) {
      Map<String, Part> from = byId(inventory(pick.from()).inventory());
      for (; at < brought.size() && comesFrom(brought.get(at), pick); at++) {
        check(from, now, brought.get(at), expected, unequal);
      }
    }
    before.inventory().links().stream()
        .filter(link -> !report.inventory().links().contains(link))
        .forEach(link -> unequal.add("the file " + link.uri() + " is not named any more"));
    int untouched = 0;
    for (Part part : was.values()) {
      if (!expected.contains(part.id()) && !part.kind().equals(COUNT)) {
        Part after = now.get(part.id());
        if (after == null || !isEqual(part, after, true)) {
          unequal.add(part.id() + (after == null ? " is missing" : " is not what it was"));
        } else {
          untouched++;
        }
      }
    }
    for (Part part : now.values()) {
      if (!was.containsKey(part.id())
          && !expected.contains(part.id())
          && !COMES_ALONG.contains(part.kind())) {
        unequal.add(part.id() + " is there, though nobody asked for it");
      }
    }
    return new Written(List.copyOf(brought), untouched, List.copyOf(unequal));
  }

  private static boolean comesFrom(Brought one, Pick pick) {
    return pick.parts().stream()
        .anyMatch(p -> one.from().equals(p) || one.from().startsWith(p + "/"));
  }

  private static void check(
      Map<String, Part> from,
      Map<String, Part> now,
      Brought one,
      Set<String> expected,
      List<String> unequal) {
    for (Part part : from.values()) {
      boolean itself = part.id().equals(one.from());
      if (itself || part.id().startsWith(one.from() + "/") && !part.kind().equals("mesh")) {
        String id = one.part() + part.id().substring(one.from().length());
        expected.add(id);
        Part after = now.get(id);
        if (after == null || !isEqual(part, after, one.told().isEmpty())) {
          unequal.add(id + (after == null ? " did not arrive" : " is not what it was then"));
        }
      }
    }
  }

  private HealthReport inventory(Source source) {
    return new HealthCheck(disk, source.once()).inspect(source.file(), source.name());
  }

  private static Map<String, Part> byId(Inventory inventory) {
    Map<String, Part> parts = new HashMap<>();
    inventory.parts().forEach(p -> parts.put(p.id(), p));
    return parts;
  }

  /**
   * By fingerprints; where it stands may be written in another way if something moved around it.
   */
  private static boolean isEqual(Part before, Part after, boolean placedAlike) {
    return Objects.equals(before.exact(), after.exact())
        && Objects.equals(before.surface(), after.surface())
        && (placedAlike
            ? Objects.equals(before.placing(), after.placing())
            : isNear(before.bounds(), after.bounds()));
  }

  private static boolean isNear(Box a, Box b) {
    if (a == null || b == null) {
      return a == b;
    }
    double most = 1e-5 * Math.max(a.diagonal(), 1e-9) + 4 * a.precision();
    for (int k = 0; k < 3; k++) {
      if (Math.abs(a.min()[k] - b.min()[k]) > most || Math.abs(a.max()[k] - b.max()[k]) > most) {
        return false;
      }
    }
    return true;
  }
}
