package dev.kavrin.core.content.hdf5;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.FieldReader;
import dev.kavrin.core.content.Fields;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.Slice;
import dev.kavrin.core.content.Unclosed;
import dev.kavrin.core.content.field.FieldSums;
import io.jhdf.HdfFile;
import io.jhdf.api.Attribute;
import io.jhdf.api.Dataset;
import io.jhdf.api.Group;
import io.jhdf.api.Node;
import io.jhdf.links.ExternalLink;
import java.io.IOException;
import java.net.URI;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * HDF5, its groups and number fields read to the end; other files it links into are named and not
 * opened. A whole number in the attribute {@code step} of the root is the step it holds.
 * Not-a-number in a field makes it doubtful: the run diverged.
 */
public final class Hdf5Reader implements FieldReader {
  private static final int DEEPEST = 32;
  private static final int MOST_PARTS = 5_000;
  private static final long LOOSE = 1_000_000;
  private static final int MOST_IN_A_SLICE = 1_000_000;

  /** Stands for the file in the library's messages; it is never opened by this name. */
  private static final URI NAMELESS = URI.create("file:/file.h5");

  @Override
  public boolean reads(String ext) {
    return ext.equals("h5") || ext.equals("hdf5") || ext.equals("hdf");
  }

  @Override
  public boolean recognises(ByteBuffer head) {
    return Superblock.beginsIn(head);
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    Optional<Superblock> head = Superblock.find(in);
    if (head.isEmpty()) {
      String words =
          in.size() == 0 ? "The file is empty: 0 bytes." : "It does not begin like an HDF5 file.";
      return new Reading(
          inventory(List.of(), List.of(), null),
          List.of(Finding.damaged("no-signature", 0, words)));
    }
    Contents contents = new Contents();
    head.get().fault(in.size()).ifPresent(contents.findings::add);
    try (HdfFile file = new HdfFile(new Unclosed(in), NAMELESS)) {
      contents.step = step(file);
      contents.take(file, "", 0);
      contents.nothingButZeros(in);
    } catch (RuntimeException | StackOverflowError broken) {
      contents.findings.add(
          Finding.damaged("unreadable", -1, "It could not be read: " + broken.getMessage()));
    }
    return new Reading(inventory(contents.parts, contents.links, contents.step), contents.findings);
  }

  @Override
  public Optional<Slice> slice(SeekableByteChannel in) throws IOException {
    if (Superblock.find(in).isEmpty()) {
      return Optional.empty();
    }
    try (HdfFile file = new HdfFile(new Unclosed(in), NAMELESS)) {
      return largest(file, 0).map(Hdf5Field::plane);
    } catch (RuntimeException | StackOverflowError broken) {
      return Optional.empty();
    }
  }

  @Override
  public Fields fields(SeekableByteChannel in) {
    return part -> {
      if (Superblock.find(in).isEmpty()) {
        return new double[0];
      }
      try (HdfFile file = new HdfFile(new Unclosed(in), NAMELESS)) {
        return Hdf5Field.of(file.getDatasetByPath(part), new FieldSums(true)).sums().held();
      } catch (RuntimeException | StackOverflowError broken) {
        return new double[0];
      }
    };
  }

  /** The number field with two dimensions and most numbers, within bounds. */
  private static Optional<Dataset> largest(Group group, int depth) {
    Optional<Dataset> best = Optional.empty();
    for (Node node : group) {
      Optional<Dataset> one = Optional.empty();
      if (node instanceof Group below && depth < DEEPEST) {
        one = largest(below, depth + 1);
      } else if (node instanceof Dataset field
          && field.getDimensions().length == 2
          && field.getSize() > 0
          && field.getSize() <= MOST_IN_A_SLICE
          && Number.class.isAssignableFrom(wrapped(field.getJavaType()))) {
        one = Optional.of(field);
      }
      if (one.isPresent() && (best.isEmpty() || one.get().getSize() > best.get().getSize())) {
        best = one;
      }
    }
    return best;
  }

  private static Class<?> wrapped(Class<?> type) {
    return java.lang.invoke.MethodType.methodType(type).wrap().returnType();
  }

  private static Inventory inventory(List<Part> parts, List<Link> links, Long step) {
    return Inventory.ofStep("hdf5", parts, links, step);
  }

  private static Long step(HdfFile file) {
    Attribute told = file.getAttribute("step");
    return told != null && told.getData() instanceof Number number ? number.longValue() : null;
  }

  /** What was read so far. */
  private static final class Contents {
    private final List<Part> parts = new ArrayList<>();
    private final List<Link> links = new ArrayList<>();
    private final List<Finding> findings = new ArrayList<>();
    private Long step;
    private long stored;

    /** Zeros at the end that are no field's: fields may be zero, room of nothing is not made. */
    void nothingButZeros(SeekableByteChannel in) throws IOException {
      long loose = in.size() - stored;
      long zeros = loose < LOOSE || loose * 2 < in.size() ? 0 : Bytes.zerosAtEnd(in, loose);
      if (zeros * 2 > loose) {
        findings.add(
            Finding.doubtful(
                "zero-tail",
                in.size() - zeros,
                "Its last " + zeros + " bytes are all zero and belong to no field."));
      }
    }

    void take(Group group, String path, int depth) {
      for (Node node : group) {
        if (depth > DEEPEST || parts.size() >= MOST_PARTS) {
          return;
        }
        String id = path.isEmpty() ? node.getName() : path + "/" + node.getName();
        String parent = path.isEmpty() ? null : path;
        if (node instanceof Group below) {
          parts.add(Part.of(id, parent, node.getName(), "group", Map.of(), null));
          take(below, id, depth + 1);
        } else if (node instanceof Dataset dataset) {
          field(dataset, id, parent);
        } else if (node instanceof ExternalLink link) {
          links.add(new Link(file(link.getTargetPath()), "data"));
        }
      }
    }

    /** The library tells file and path in it as one. */
    private static String file(String target) {
      int colon = target.lastIndexOf(':');
      return colon < 0 ? target : target.substring(0, colon);
    }

    private void field(Dataset dataset, String id, String parent) {
      stored += dataset.getStorageInBytes();
      Hdf5Field field = Hdf5Field.of(dataset, new FieldSums(false));
      FieldSums summary = field.sums();
      parts.add(Part.of(id, parent, dataset.getName(), "field", field.measures(), summary.exact()));
      if (summary.runsAway()) {
        findings.add(
            Finding.doubtful(
                "runaway",
                -1,
                "The field "
                    + id
                    + " reaches "
                    + summary.largest()
                    + ": no such thing is real, the run diverged."));
      }
      if (summary.notNumbers() > 0) {
        findings.add(
            Finding.doubtful(
                "not-a-number",
                -1,
                "The field "
                    + id
                    + " holds "
                    + summary.notNumbers()
                    + " values that are no numbers: the run diverged."));
      }
    }
  }
}
