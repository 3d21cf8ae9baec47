package dev.kavrin.core.content.hdf5;

import dev.kavrin.core.content.PartWriter;
import dev.kavrin.core.content.Unclosed;
import dev.kavrin.core.disk.ScratchFile;
import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import io.jhdf.api.Attribute;
import io.jhdf.api.Dataset;
import io.jhdf.api.Group;
import io.jhdf.api.Node;
import io.jhdf.api.WritableGroup;
import io.jhdf.api.WritableNode;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.URI;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Datasets of HDF5 files, or groups with all that is in them. The file is rewritten: numbers and
 * text with their attributes stay what they are; how they were stored, in pieces or compressed, is
 * not kept.
 */
public final class Hdf5Parts implements PartWriter {
  private static final URI NAMELESS = URI.create("file:/file.h5");
  private static final long LARGEST = 200_000_000;

  @Override
  public List<Brought> write(Opened base, List<Wanted> wanted, OutputStream out)
      throws IOException {
    Map<String, Dataset> taken = new LinkedHashMap<>();
    List<Brought> brought = new ArrayList<>();
    List<HdfFile> open = new ArrayList<>();
    try (ScratchFile written = ScratchFile.empty(".h5")) {
      HdfFile into = open(base.in(), open);
      Map<String, Dataset> there = datasets(into);
      for (Wanted some : wanted) {
        HdfFile from = open(some.from().in(), open);
        for (String part : some.parts()) {
          brought.add(take(from, part, there.keySet(), taken));
        }
      }
      try (WritableHdfFile file = HdfFile.write(written.path())) {
        new Copy(taken, new LinkedHashSet<>(taken.keySet())).into(file, into);
      }
      try (InputStream back = written.read()) {
        back.transferTo(out);
      }
      return brought;
    } catch (RuntimeException | StackOverflowError unfit) {
      throw new CannotTake(
          "The file holds something that cannot be written again: " + unfit.getMessage());
    } finally {
      open.forEach(HdfFile::close);
    }
  }

  private static HdfFile open(SeekableByteChannel in, List<HdfFile> open) throws IOException {
    if (in.size() > LARGEST) {
      throw new CannotTake("The file is too large to be rewritten. Restore the whole version.");
    }
    if (Superblock.find(in).isEmpty()) {
      throw new CannotTake("One of the two files is no whole HDF5.");
    }
    HdfFile file = new HdfFile(new Unclosed(in), NAMELESS);
    open.add(file);
    return file;
  }

  private static Brought take(
      HdfFile from, String part, Set<String> there, Map<String, Dataset> taken) throws CannotTake {
    Map<String, Dataset> all = datasets(from);
    List<String> below =
        all.keySet().stream().filter(p -> p.equals(part) || p.startsWith(part + "/")).toList();
    if (below.isEmpty()) {
      throw new CannotTake(part + " is not in that version.");
    }
    below.forEach(p -> taken.put(p, all.get(p)));
    List<String> along = below.stream().filter(p -> !p.equals(part)).toList();
    return new Brought(part, part, below.stream().anyMatch(there::contains), along, List.of());
  }

  private static Map<String, Dataset> datasets(Group root) throws CannotTake {
    Map<String, Dataset> found = new LinkedHashMap<>();
    gather(root, "", found);
    return found;
  }

  private static void gather(Group group, String path, Map<String, Dataset> found)
      throws CannotTake {
    for (Node node : group) {
      String id = path.isEmpty() ? node.getName() : path + "/" + node.getName();
      if (node.isLink()) {
        throw new CannotTake(
            id
                + " is a link to somewhere else, which could not be written again. Take the whole"
                + " version, or bring the part over in its own program.");
      }
      if (node instanceof Group below) {
        gather(below, id, found);
      } else if (node instanceof Dataset dataset) {
        found.put(id, dataset);
      }
    }
  }

  /**
   * Writes everything there is, and what was taken in its place.
   *
   * @param left what was taken and has not found a place yet
   */
  private record Copy(Map<String, Dataset> taken, Set<String> left) {
    void into(WritableHdfFile file, Group root) {
      attributes(root, file);
      group(root, "", file);
      for (String path : List.copyOf(left)) {
        added(file, path);
      }
    }

    private void group(Group from, String path, WritableGroup to) {
      for (Node node : from) {
        String id = path.isEmpty() ? node.getName() : path + "/" + node.getName();
        if (node instanceof Group below) {
          WritableGroup made = to.putGroup(node.getName());
          attributes(below, made);
          group(below, id, made);
        } else if (node instanceof Dataset dataset) {
          left.remove(id);
          put(to, node.getName(), taken.getOrDefault(id, dataset));
        }
      }
    }

    private void added(WritableGroup root, String path) {
      WritableGroup at = root;
      String[] names = path.split("/");
      for (int i = 0; i < names.length - 1; i++) {
        Node child = at.getChildren().get(names[i]);
        at = child instanceof WritableGroup there ? there : at.putGroup(names[i]);
      }
      put(at, names[names.length - 1], taken.get(path));
    }

    private static void put(WritableGroup to, String name, Dataset dataset) {
      attributes(dataset, to.putDataset(name, dataset.getData()));
    }

    private static void attributes(Node from, WritableNode to) {
      for (Attribute attribute : from.getAttributes().values()) {
        to.putAttribute(attribute.getName(), attribute.getData());
      }
    }
  }
}
