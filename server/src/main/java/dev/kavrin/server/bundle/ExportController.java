package dev.kavrin.server.bundle;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.export.Export;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.platform.Scratch;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionFiles.Side;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** States in another open format, beside nothing that stands. */
@RestController
class ExportController {
  private final VersionFiles files;
  private final ReaderProcess reader;
  private final PathGuard guard;
  private final Scratch scratch;
  private final Disk disk;
  private final Publisher publisher;

  ExportController(
      VersionFiles files,
      ReaderProcess reader,
      PathGuard guard,
      Scratch scratch,
      Disk disk,
      Publisher publisher) {
    this.scratch = scratch;
    this.publisher = publisher;
    this.files = files;
    this.reader = reader;
    this.guard = guard;
    this.disk = disk;
  }

  /**
   * A format a state can be written in.
   *
   * @param loses what does not come along, in words
   */
  record OtherFormat(String ending, String format, List<String> loses) {}

  @GetMapping("/api/documents/{id}/versions/{state}/formats")
  List<OtherFormat> formats(@PathVariable UUID id, @PathVariable String state) {
    return Export.of(files.side(id, state).name()).stream()
        .map(Export::format)
        .map(f -> new OtherFormat(f.ending(), f.name(), f.loses()))
        .toList();
  }

  /**
   * @param ending of the format
   * @param folder where the new file goes; is made if need be
   */
  record ExportRequest(@NotBlank String ending, @NotBlank String folder) {}

  /** What was written. */
  record Exported(String path, long bytes, List<String> lost) {}

  @PostMapping("/api/documents/{id}/versions/{state}/formats")
  Exported export(
      @PathVariable UUID id, @PathVariable String state, @Valid @RequestBody ExportRequest r)
      throws IOException {
    Side side = files.side(id, state);
    Export export =
        Export.of(side.name()).stream()
            .filter(e -> e.format().ending().equals(r.ending()))
            .findFirst()
            .orElseThrow(
                () ->
                    ProblemException.badInput(
                        "no-format", side.name() + " cannot be written as " + r.ending() + "."));
    Path folder = guard.target(r.folder());
    FileName name = new FileName(FileName.of(side.name()).stem(), r.ending());
    disk.makeFolders(folder);
    Path target =
        scratch.writing(
            folder,
            0,
            aside -> {
              Path written = aside.resolve(name.written());
              reader.export(side.file(), side.name(), r.ending(), written);
              Path free = free(folder, name);
              publisher.copy(written, free);
              return free;
            });
    long bytes = disk.facts(target).orElseThrow().size();
    return new Exported(target.toString(), bytes, export.format().loses());
  }

  private Path free(Path folder, FileName name) throws IOException {
    Path target = folder.resolve(name.written());
    for (int n = 2; disk.facts(target).isPresent(); n++) {
      target = folder.resolve(new FileName(name.stem() + "-" + n, name.ext()).written());
    }
    return target;
  }
}
