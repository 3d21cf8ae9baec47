package dev.kavrin.server.comparison;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Unchanged;
import dev.kavrin.core.health.Readers;
import dev.kavrin.core.picture.Frame;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.version.VersionFiles;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import org.springframework.stereotype.Component;

/** Reduced models of contents to turn about, and small pictures of them, kept by content. */
@Component
class Previews {
  private static final byte[] NOTHING = "null".getBytes(StandardCharsets.US_ASCII);

  private static final int MOST_TRIANGLES = 200_000;
  private static final int DRAFT_TRIANGLES = 15_000;

  private final VersionFiles files;
  private final ReaderProcess reader;
  private final Disk disk;
  private final Publisher publisher;
  private final Path folder;

  Previews(
      VersionFiles files, ReaderProcess reader, Disk disk, Publisher publisher, Settings settings) {
    this.files = files;
    this.reader = reader;
    this.disk = disk;
    this.publisher = publisher;
    this.folder = settings.data().resolve("previews");
  }

  /** What is drawn, and what it is called. */
  private enum Look {
    MODEL(".glb"),
    DRAFT(".draft.glb"),
    PICTURE(".png"),
    LARGE_PICTURE(".large.png"),
    PLANE(".plane.json");

    private final String ending;

    Look(String ending) {
      this.ending = ending;
    }
  }

  /**
   * A GLB without materials or outside links.
   *
   * @param draft true for few triangles, to be shown while the view is moved
   */
  byte[] model(ContentId content, boolean draft) throws IOException {
    return of(content, draft ? Look.DRAFT : Look.MODEL);
  }

  /** A PNG; no bytes if there is nothing to see. */
  byte[] picture(ContentId content, boolean large) throws IOException {
    return of(content, large ? Look.LARGE_PICTURE : Look.PICTURE);
  }

  /** A small PNG in which one part stands out; drawn anew each time, for there are many parts. */
  byte[] lit(ContentId content, String part) throws IOException {
    Path file = file(content);
    String name = files.nameOf(content, file);
    return unchanged(content, file, f -> reader.picture(f, name, Frame.SMALL.lighting(part)));
  }

  /** A {@link dev.kavrin.core.picture.Plane} as JSON; empty if it has none. */
  byte[] plane(ContentId content) throws IOException {
    byte[] read = of(content, Look.PLANE);
    return Arrays.equals(read, NOTHING) ? new byte[0] : read;
  }

  private byte[] of(ContentId content, Look look) throws IOException {
    Path cached = folder.resolve(content + look.ending);
    if (Files.exists(cached)) {
      return Files.readAllBytes(cached);
    }
    Path file = file(content);
    return draw(content, file, files.nameOf(content, file), look);
  }

  private Path file(ContentId content) {
    return files
        .fileOf(content)
        .orElseThrow(() -> ProblemException.notFound("No copy of it can be reached."));
  }

  /** Draws a content that will not be there any more when its picture is asked for. */
  void keep(ContentId content, Path file, String name) throws IOException {
    if (Readers.hasShapes(name)) {
      for (Look look : List.of(Look.MODEL, Look.DRAFT)) {
        if (Files.notExists(folder.resolve(content + look.ending))) {
          draw(content, file, name, look);
        }
      }
    }
  }

  /**
   * An empty picture of a kind that has shapes is not kept: what it leans on may have been away.
   */
  private byte[] draw(ContentId content, Path file, String name, Look look) throws IOException {
    byte[] bytes =
        unchanged(
            content,
            file,
            f ->
                switch (look) {
                  case MODEL -> reader.preview(f, name, MOST_TRIANGLES);
                  case DRAFT -> reader.preview(f, name, DRAFT_TRIANGLES);
                  case PICTURE -> reader.picture(f, name, Frame.SMALL);
                  case LARGE_PICTURE -> reader.picture(f, name, Frame.LARGE);
                  case PLANE -> reader.plane(f, name);
                });
    if (bytes.length == 0 && Readers.hasShapes(name)) {
      return bytes;
    }
    Files.createDirectories(folder);
    try {
      publisher.publish(
          folder.resolve(content + look.ending),
          sink -> sink.write(bytes, 0, bytes.length),
          PublishCheck.NONE);
    } catch (FileAlreadyExistsException drawnMeanwhile) {
      return bytes;
    }
    return bytes;
  }

  private byte[] unchanged(ContentId content, Path file, Unchanged.Reading<byte[]> reading)
      throws IOException {
    return Unchanged.read(disk, file, content, reading)
        .orElseThrow(
            () ->
                ProblemException.conflict(
                    "written-meanwhile", "The file was written while it was read."));
  }
}
