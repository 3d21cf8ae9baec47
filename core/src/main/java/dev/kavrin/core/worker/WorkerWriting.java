package dev.kavrin.core.worker;

import dev.kavrin.core.compare.FileComparison.Source;
import dev.kavrin.core.content.PartWriter;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SinkStream;
import dev.kavrin.core.export.Export;
import dev.kavrin.core.health.SiblingFilesOnDisk;
import dev.kavrin.core.relink.Relink;
import dev.kavrin.core.restore.PartRestore;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;

/** What a worker writes: new versions of a file, through the one publisher. */
final class WorkerWriting {
  private WorkerWriting() {}

  static Object relinked(Disk disk, ReaderWorker.Request request) throws IOException {
    return new Relink(disk, new Publisher(disk, "worker"))
        .write(
            new Source(Path.of(request.path()), request.name(), request.once()),
            request.taking().names(),
            Path.of(request.taking().target()));
  }

  static PartRestore.Written taken(Disk disk, ReaderWorker.Request request) throws IOException {
    return new PartRestore(disk, new Publisher(disk, "worker"))
        .write(
            new Source(Path.of(request.path()), request.name(), request.once()),
            request.taking().picks().stream()
                .map(
                    p ->
                        new PartRestore.Pick(
                            new Source(Path.of(p.path()), p.name(), p.once()), p.parts()))
                .toList(),
            Path.of(request.taking().target()));
  }

  /** How many bytes were written. */
  static long exported(Disk disk, ReaderWorker.Request request) throws IOException {
    Path from = Path.of(request.path());
    Path target = Path.of(request.taking().target());
    Export export =
        Export.of(request.name()).stream()
            .filter(e -> e.format().ending().equals(request.taking().ending()))
            .findFirst()
            .orElseThrow(() -> new CannotTake("It cannot be written in that format."));
    try (SeekableByteChannel in = disk.read(from)) {
      PartWriter.Opened opened =
          new PartWriter.Opened(
              in, request.name(), new SiblingFilesOnDisk(disk, from, request.once()));
      new Publisher(disk, "worker")
          .publish(
              target,
              sink -> {
                OutputStream out = new BufferedOutputStream(new SinkStream(sink), 1 << 16);
                export.write(opened, out);
                out.flush();
              },
              PublishCheck.NONE);
    }
    return disk.facts(target).orElseThrow().size();
  }
}
