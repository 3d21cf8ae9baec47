package dev.kavrin.server.comparison;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Unchanged;
import dev.kavrin.core.health.Readers;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.trail.StateFiles;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.springframework.stereotype.Component;

/** Reduced models of contents to turn about, and small pictures of them, kept by content. */
@Component
class Previews {
  private static final int MOST_TRIANGLES = 200_000;

  private final StateFiles files;
  private final ReaderProcess reader;
  private final Disk disk;
  private final Publisher publisher;
  private final Path folder;

  Previews(
      StateFiles files, ReaderProcess reader, Disk disk, Publisher publisher, Settings settings) {
    this.files = files;
    this.reader = reader;
    this.disk = disk;
    this.publisher = publisher;
    this.folder = settings.data().resolve("previews");
  }

  /** What is drawn, and what it is called. */
  private enum Look {
    MODEL(".glb"),
    PICTURE(".png");

    private final String ending;

    Look(String ending) {
      this.ending = ending;
    }
  }

  /** A GLB without materials or outside links. */
  byte[] model(ContentId content) throws IOException {
    return of(content, Look.MODEL);
  }

  /** A PNG; no bytes if there is nothing to see. */
  byte[] picture(ContentId content) throws IOException {
    return of(content, Look.PICTURE);
  }

  private byte[] of(ContentId content, Look look) throws IOException {
    Path cached = folder.resolve(content + look.ending);
    if (Files.exists(cached)) {
      return Files.readAllBytes(cached);
    }
    Path file =
        files
            .fileOf(content)
            .orElseThrow(() -> ProblemException.notFound("No copy of it can be reached."));
    return draw(content, file, files.nameOf(content, file), look);
  }

  /** Draws a content that will not be there any more when its picture is asked for. */
  void keep(ContentId content, Path file, String name) throws IOException {
    if (Readers.hasShapes(name) && Files.notExists(folder.resolve(content + ".glb"))) {
      draw(content, file, name, Look.MODEL);
    }
  }

  private byte[] draw(ContentId content, Path file, String name, Look look) throws IOException {
    byte[] bytes =
        Unchanged.read(
                disk,
                file,
                content,
                f ->
                    look == Look.MODEL
                        ? reader.preview(f, name, MOST_TRIANGLES)
                        : reader.picture(f, name))
            .orElseThrow(
                () ->
                    ProblemException.conflict(
                        "written-meanwhile", "The file was written while it was read."));
    Files.createDirectories(folder);
    try {
      publisher.publish(
          folder.resolve(content + look.ending),
          sink -> sink.write(bytes, 0, bytes.length),
          Publisher.OPEN);
    } catch (FileAlreadyExistsException drawnMeanwhile) {
      return bytes;
    }
    return bytes;
  }
}
