package dev.kavrin.core.disk;

import java.io.IOException;
import java.util.List;
import java.util.concurrent.CompletableFuture;

/** Hands the same bytes on to several stages. One that fails is left behind; the others go on. */
final class Fork implements Sink {
  private final List<Stage> stages;

  Fork(List<Stage> stages) {
    this.stages = stages;
  }

  /** Gives up once nobody takes the bytes any more. */
  @Override
  public void write(byte[] bytes, int offset, int count) throws IOException {
    boolean taken = false;
    for (Stage stage : stages) {
      stage.write(sink -> sink.write(bytes, offset, count));
      taken |= stage.failure() == null;
    }
    if (!taken) {
      throw new NobodyTakesIt();
    }
  }

  /** Every stage failed, each with a reason of its own. */
  static final class NobodyTakesIt extends IOException {}

  /** All at once, for each may lie on a drive of its own. */
  @Override
  public void flush() {
    List<CompletableFuture<Void>> others =
        stages.stream()
            .skip(1)
            .map(s -> CompletableFuture.runAsync(() -> s.write(Sink::flush), Background.THREADS))
            .toList();
    stages.get(0).write(Sink::flush);
    others.forEach(CompletableFuture::join);
  }

  @Override
  public void close() {
    stages.forEach(Stage::close);
  }
}
