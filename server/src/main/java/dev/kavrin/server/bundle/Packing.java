package dev.kavrin.server.bundle;

import dev.kavrin.core.bundle.PortableNames;
import dev.kavrin.core.bundle.Secrets;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.relink.Relink;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.restore.UsedFiles;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.CopyView;
import dev.kavrin.server.version.VersionsView.StateView;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** What goes into a bundle: states of documents with all they lean on, each file once. */
@Component
class Packing {
  private final ProjectService projects;
  private final VersionService trail;
  private final VersionFiles files;
  private final UsedFiles leanedOn;
  private final PathGuard guard;
  private final Disk disk;

  Packing(
      ProjectService projects,
      VersionService trail,
      VersionFiles files,
      UsedFiles leanedOn,
      PathGuard guard,
      Disk disk) {
    this.projects = projects;
    this.trail = trail;
    this.files = files;
    this.leanedOn = leanedOn;
    this.guard = guard;
    this.disk = disk;
  }

  /** A document and the state of it that goes along. */
  record Choice(UUID document, String state) {}

  /**
   * @param missing what the documents lean on and nobody has, by document
   */
  record Packed(List<PackedFile> files, Map<String, List<String>> missing) {
    long bytes() {
      return files.stream().mapToLong(PackedFile::size).sum();
    }

    /** Without what a person has to allow and has not. */
    Packed allowing(Set<String> allowed) {
      return new Packed(
          files.stream().filter(f -> f.ask() == null || allowed.contains(f.original())).toList(),
          missing);
    }

    /** What was asked about and stays here. */
    List<String> leftOut(Set<String> allowed) {
      return files.stream()
          .filter(f -> f.ask() != null && !allowed.contains(f.original()))
          .map(PackedFile::original)
          .toList();
    }
  }

  /** Where a file lay, without the folders of this machine above it. */
  static String shown(String original) {
    Path path = Path.of(original);
    return path.isAbsolute() ? PackedFile.OUTSIDE + "/" + path.getFileName() : original;
  }

  Packed of(List<Choice> choices) throws IOException {
    Packer packer = new Packer();
    for (Choice choice : choices) {
      Document document = projects.document(choice.document());
      StateView state = trail.state(choice.document(), choice.state());
      if (state.step() != null) {
        packer.step(document, state);
      } else {
        packer.whole(document, state);
      }
    }
    return new Packed(new ArrayList<>(packer.packed.values()), packer.missing);
  }

  private final class Packer {
    private final Map<String, PackedFile> packed = new LinkedHashMap<>();
    private final Map<String, List<String>> missing = new LinkedHashMap<>();
    private final PortableNames names = new PortableNames();

    void step(Document document, StateView state) {
      Path folder = Path.of(document.path()).resolveSibling("");
      for (StepLayout.Piece piece : files.pieces(document.id(), state.id())) {
        String original = folder.resolve(piece.relative()).normalize().toString();
        put(
            new PackedFile(
                names.of(original),
                original,
                "step",
                document.id(),
                piece.source().toString(),
                piece.content().length(),
                state.id(),
                state.workTo(),
                false,
                null,
                Map.of(),
                List.of()));
      }
    }

    void whole(Document document, StateView state) throws IOException {
      CopyView copy = trail.bestCopy(document.id(), state.id());
      String path = names.of(document.path());
      UsedFiles.Files leaned = leanedOn.of(document, state.id(), Path.of(copy.path()));
      Map<Path, String> inBundle = new TreeMap<>();
      List<PackedFile> linked = new ArrayList<>();
      leaned
          .beside()
          .forEach(
              (relative, source) -> {
                PackedFile file =
                    linked(document, relative, source, leaned.now().contains(relative));
                inBundle.put(document.live().resolveSibling(relative).normalize(), file.path());
                linked.add(file);
              });
      List<String> gone = new ArrayList<>(leaned.missing());
      for (String uri : state.names()) {
        Path file = document.named(uri).orElse(null);
        if (file == null || inBundle.containsKey(file)) {
          continue;
        }
        if (stands(file)) {
          PackedFile foreign = foreign(document, file);
          inBundle.put(file, foreign.path());
          linked.add(foreign);
          gone.remove(uri);
        } else if (!gone.contains(uri) && !gone.contains(inProject(document, file))) {
          gone.add(uri);
        }
      }
      Map<String, String> renamed = renamed(document, state, path, inBundle);
      boolean canWrite = Relink.canWrite(document.path());
      put(
          new PackedFile(
              path,
              document.path(),
              "document",
              document.id(),
              copy.path(),
              copy.size(),
              state.id(),
              state.workTo(),
              false,
              null,
              canWrite ? renamed : Map.of(),
              canWrite ? List.of() : List.copyOf(renamed.keySet())));
      linked.forEach(this::put);
      if (!gone.isEmpty()) {
        missing.put(document.path(), gone);
      }
    }

    private PackedFile linked(Document document, String relative, Path source, boolean asNow) {
      Path folder = Path.of(document.path()).resolveSibling("");
      String original = folder.resolve(relative).normalize().toString();
      String name = Path.of(original).getFileName().toString();
      return new PackedFile(
          names.of(original),
          original,
          "linked",
          document.id(),
          source.toString(),
          size(source),
          null,
          null,
          asNow,
          Secrets.isLikely(name) ? PackedFile.SECRET : null,
          Map.of(),
          List.of());
    }

    /** A file of somewhere else lies in a folder of its own in the bundle. */
    private PackedFile foreign(Document document, Path file) {
      Path above = file.getParent().getFileName();
      String path =
          PackedFile.OUTSIDE + "/" + (above == null ? "" : above + "/") + file.getFileName();
      return new PackedFile(
          names.of(path),
          file.toString(),
          "linked",
          document.id(),
          file.toString(),
          size(file),
          null,
          null,
          true,
          PackedFile.OUTSIDE,
          Map.of(),
          List.of());
    }

    /** A file that two documents lean on goes along once. */
    private void put(PackedFile file) {
      packed.putIfAbsent(file.path(), file);
    }
  }

  private long size(Path file) {
    try {
      return disk.facts(file).map(FileFacts::size).orElse(0L);
    } catch (IOException unreadable) {
      return 0;
    }
  }

  private String inProject(Document document, Path file) {
    Path project = Path.of(projects.kept(document.project()).project().folder());
    return file.startsWith(project) ? RelativePath.of(project, file) : file.toString();
  }

  private boolean stands(Path file) throws IOException {
    return guard.allows(file) && disk.facts(file).filter(FileFacts::isFile).isPresent();
  }

  /** Names that would not lead to the files of the bundle, and those that do. */
  private static Map<String, String> renamed(
      Document document, StateView state, String path, Map<Path, String> inBundle) {
    Path root = Path.of("/bundle");
    Path here = root.resolve(path);
    Map<String, String> renamed = new LinkedHashMap<>();
    for (String uri : state.names()) {
      Path file = document.named(uri).orElse(null);
      String there = file == null ? null : inBundle.get(file);
      if (there != null) {
        Path target = root.resolve(there);
        Link link = new Link(uri, "data");
        boolean leads =
            !link.isAbsolute()
                && link.path()
                    .filter(p -> here.resolveSibling(p).normalize().equals(target))
                    .isPresent();
        if (!leads) {
          String relative = RelativePath.of(here.getParent(), target);
          renamed.put(uri, Relink.written(document.path(), relative));
        }
      }
    }
    return renamed;
  }
}
