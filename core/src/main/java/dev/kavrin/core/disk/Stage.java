package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentId;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;

/** One unfinished file among several that are written in one pass; keeps its own failure. */
final class Stage {
  private final Path file;
  private final Publisher.Target target;
  private CheckedSink sink;
  private Exception failure;
  private long nanos;

  /** Makes the file of a stage. */
  @FunctionalInterface
  interface Making {
    CheckedSink of(Path file) throws IOException;
  }

  /** If the file cannot be made, the stage has failed from the start. */
  Stage(Publisher.Target target, Path file, Making making) {
    this.file = file;
    this.target = target;
    try {
      this.sink = making.of(file);
    } catch (IOException | RuntimeException failed) {
      this.failure = failed;
    }
  }

  Path file() {
    return file;
  }

  Publisher.Target target() {
    return target;
  }

  @Nullable
  Exception failure() {
    return failure;
  }

  ContentId content() {
    return sink.content();
  }

  /** What one stage is to do. */
  @FunctionalInterface
  interface Work {
    void on(CheckedSink sink) throws IOException;
  }

  /** Does it unless the stage failed before. */
  void attempt(Work work) {
    if (failure == null) {
      try {
        work.on(sink);
      } catch (IOException | RuntimeException failed) {
        failure = failed;
      }
    }
  }

  /** Does it likewise; the time it takes counts as time the device took. */
  void write(Work work) {
    long start = System.nanoTime();
    attempt(work);
    nanos += System.nanoTime() - start;
  }

  Duration writing() {
    return Duration.ofNanos(nanos);
  }

  void close() {
    if (sink != null) {
      try {
        sink.close();
      } catch (IOException failed) {
        failure = failure == null ? failed : failure;
      }
    }
  }
}
