package dev.kavrin.core.health;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.content.Formats;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.TooLargeException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.WatchedChannel;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Reads a file through the reader of its format, or as opaque bytes. In this process. */
public final class HealthCheck implements Inspector {
  /**
   * Which edition of the checks this is: raised with each change by which a file may be judged
   * otherwise than before. What an older one judged is read again.
   */
  public static final int EDITION = 1;

  private static final int HEAD = 64;

  private final Disk disk;
  private final Map<String, String> once;

  public HealthCheck(Disk disk) {
    this(disk, Map.of());
  }

  /**
   * @param once what lay beside the file, as {@link SiblingFilesOnDisk} takes it
   */
  public HealthCheck(Disk disk, Map<String, String> once) {
    this.disk = disk;
    this.once = once;
  }

  @Override
  public HealthReport inspect(Path file, String name) {
    return inspect(file, name, new SiblingFilesOnDisk(disk, file, once));
  }

  /** The same of a file that will stand elsewhere. */
  public HealthReport inspect(Path file, String name, SiblingFiles beside) {
    WatchedSiblings siblings = new WatchedSiblings(beside);
    try (WatchedChannel in = new WatchedChannel(disk.read(file))) {
      HealthReport report = read(file, name, in, siblings);
      IOException failed = in.failure() == null ? siblings.failure() : in.failure();
      return failed == null ? report : unreadable(failed);
    } catch (TooLargeException large) {
      return HealthReport.uncheckable(large.getMessage());
    } catch (IOException failed) {
      return unreadable(failed);
    } catch (OutOfMemoryError full) {
      return HealthReport.uncheckable("Too large to check: it needs more memory than there is.");
    }
  }

  /** The device failed, not the format: nothing is known of the file. */
  private static HealthReport unreadable(IOException failed) {
    return HealthReport.notYet("Could not be read: " + failed.getMessage());
  }

  private HealthReport read(Path file, String name, SeekableByteChannel in, SiblingFiles beside)
      throws IOException {
    Optional<Format> format = Formats.of(in, name);
    Optional<Finding> holes = Holes.in(disk, file, in.size());
    if (holes.isPresent() && (format.isEmpty() || !beginsWithZeros(in))) {
      return new HealthReport(Verdict.DOUBTFUL, List.of(holes.get()), Inventory.OPAQUE);
    }
    return format.isPresent()
        ? judged(format.get(), format.get().reader().read(in, beside), in)
        : opaque(in);
  }

  /** Such a file its reader refuses at once, whatever its size. */
  private static boolean beginsWithZeros(SeekableByteChannel in) throws IOException {
    ByteBuffer head = Bytes.head(in, HEAD);
    while (head.hasRemaining()) {
      if (head.get() != 0) {
        return false;
      }
    }
    return true;
  }

  private static HealthReport judged(
      Format format, ContentReader.Reading reading, SeekableByteChannel in) throws IOException {
    boolean all =
        format.tellsWholeness()
            && reading.findings().stream().noneMatch(f -> f.code().equals(Finding.HEAD_ONLY))
            && reading.inventory().parts().stream().allMatch(Part::readable);
    List<Finding> findings = new ArrayList<>();
    ZeroRuns.among(in, format.dense(in)).ifPresent(findings::add);
    findings.addAll(reading.findings());
    boolean doubtful = findings.stream().anyMatch(f -> f.severity() == Finding.Severity.DOUBTFUL);
    Verdict verdict =
        reading.damaged()
            ? Verdict.DAMAGED
            : doubtful ? Verdict.DOUBTFUL : all ? Verdict.INTACT : Verdict.NO_FAULT;
    return new HealthReport(verdict, List.copyOf(findings), reading.inventory());
  }

  private static HealthReport opaque(SeekableByteChannel in) throws IOException {
    List<Finding> findings = ZeroRuns.in(in);
    boolean odd = findings.stream().anyMatch(f -> f.severity() == Finding.Severity.DOUBTFUL);
    return new HealthReport(odd ? Verdict.DOUBTFUL : Verdict.NO_FAULT, findings, Inventory.OPAQUE);
  }
}
