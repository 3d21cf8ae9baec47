package dev.kavrin.server.bundle;

import dev.kavrin.core.bundle.BagWriter;
import dev.kavrin.core.bundle.PortableNames;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.restore.LeanedOn;
import dev.kavrin.server.trail.StateFiles;
import dev.kavrin.server.trail.TrailService;
import dev.kavrin.server.trail.TrailView.CopyView;
import dev.kavrin.server.trail.TrailView.StateView;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** What goes into a bundle: states of documents with all they lean on, each file once. */
@Component
class Packing {
  private final ProjectService projects;
  private final TrailService trail;
  private final StateFiles files;
  private final LeanedOn leanedOn;
  private final Disk disk;

  Packing(
      ProjectService projects, TrailService trail, StateFiles files, LeanedOn leanedOn, Disk disk) {
    this.projects = projects;
    this.trail = trail;
    this.files = files;
    this.leanedOn = leanedOn;
    this.disk = disk;
  }

  /** A document and the state of it that goes along. */
  record Choice(UUID document, String state) {}

  /**
   * A file that goes along.
   *
   * @param path in the bundle, the same as in the project as far as it can stand anywhere
   * @param original in the project
   * @param kind "document", "linked" or "step"
   * @param work when the work in it was done, null for a linked file
   * @param asNow true if no copy of then is held and the file of now goes along
   */
  record PackedFile(
      String path,
      String original,
      String kind,
      UUID document,
      String source,
      long size,
      @jakarta.annotation.Nullable Instant work,
      boolean asNow) {}

  /**
   * @param missing what the documents lean on and nobody has, by document
   */
  record Packed(List<PackedFile> files, Map<String, List<String>> missing) {
    long bytes() {
      return files.stream().mapToLong(PackedFile::size).sum();
    }

    List<BagWriter.Item> items() {
      return files.stream().map(f -> new BagWriter.Item(Path.of(f.source()), f.path())).toList();
    }
  }

  Packed of(List<Choice> choices) throws IOException {
    Map<String, PackedFile> files = new LinkedHashMap<>();
    Map<String, List<String>> missing = new LinkedHashMap<>();
    PortableNames names = new PortableNames();
    for (Choice choice : choices) {
      Document document = projects.document(choice.document());
      StateView state = trail.state(choice.document(), choice.state());
      if (state.step() != null) {
        step(document, state, names, files);
      } else {
        whole(document, state, names, files, missing);
      }
    }
    return new Packed(new ArrayList<>(files.values()), missing);
  }

  private void step(
      Document document, StateView state, PortableNames names, Map<String, PackedFile> files) {
    Path folder = Path.of(document.path()).resolveSibling("");
    for (StepLayout.Piece piece : this.files.pieces(document.id(), state.id())) {
      String original = folder.resolve(piece.relative()).normalize().toString();
      put(
          files,
          new PackedFile(
              names.of(original),
              original,
              "step",
              document.id(),
              piece.source().toString(),
              piece.content().length(),
              state.workTo(),
              false));
    }
  }

  private void whole(
      Document document,
      StateView state,
      PortableNames names,
      Map<String, PackedFile> files,
      Map<String, List<String>> missing)
      throws IOException {
    CopyView copy = trail.bestCopy(document.id(), state.id());
    put(
        files,
        new PackedFile(
            names.of(document.path()),
            document.path(),
            "document",
            document.id(),
            copy.path(),
            copy.size(),
            state.workTo(),
            false));
    LeanedOn.Files leaned = leanedOn.of(document, state.id(), Path.of(copy.path()));
    Path folder = Path.of(document.path()).resolveSibling("");
    for (Map.Entry<String, Path> link : leaned.beside().entrySet()) {
      String original = folder.resolve(link.getKey()).normalize().toString();
      put(
          files,
          new PackedFile(
              names.of(original),
              original,
              "linked",
              document.id(),
              link.getValue().toString(),
              disk.facts(link.getValue()).map(FileFacts::size).orElse(0L),
              null,
              leaned.now().contains(link.getKey())));
    }
    if (!leaned.missing().isEmpty()) {
      missing.put(document.path(), leaned.missing());
    }
  }

  /** A file that two documents lean on goes along once. */
  private static void put(Map<String, PackedFile> files, PackedFile file) {
    files.putIfAbsent(file.path(), file);
  }
}
