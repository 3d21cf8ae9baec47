package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Writes unfinished files in one pass, reads them back, looks at them and gives them names. */
final class Staging {
  private final Disk disk;
  private final FreeName names;
  private final String node;
  private final Unfinished unfinished;

  Staging(Disk disk, FreeName names, String node, Unfinished unfinished) {
    this.unfinished = unfinished;
    this.disk = disk;
    this.names = names;
    this.node = node;
  }

  List<Publisher.Outcome> publishAll(List<Publisher.Target> targets, Publisher.Filling filling)
      throws IOException {
    List<Stage> stages = new ArrayList<>();
    for (Publisher.Target target : targets) {
      Path file = unfinished.begin(StageName.in(target.path().getParent(), node));
      stages.add(new Stage(target, file, this::newFile));
    }
    try {
      return filled(stages, filling);
    } finally {
      stages.forEach(stage -> unfinished.end(stage.file()));
    }
  }

  private List<Publisher.Outcome> filled(List<Stage> stages, Publisher.Filling filling)
      throws IOException {
    try (Fork fork = new Fork(stages)) {
      fill(stages, fork, filling);
      fork.flush();
    } catch (IOException | RuntimeException failed) {
      stages.forEach(stage -> discard(stage.file(), failed));
      throw failed;
    }
    return stages.stream().map(this::finish).toList();
  }

  private static void fill(List<Stage> stages, Fork fork, Publisher.Filling filling)
      throws IOException {
    if (stages.stream().anyMatch(stage -> stage.failure() == null)) {
      try {
        filling.into(fork);
      } catch (Fork.NobodyTakesIt eachKeepsItsReason) {
        return;
      }
    }
  }

  private Publisher.Outcome finish(Stage stage) {
    stage.attempt(
        sink -> {
          stage.target().check().pass(stage.file(), sink.content());
          names.move(stage.file(), stage.target().path());
        });
    if (stage.failure() == null) {
      return new Publisher.Outcome(stage.content(), null, stage.writing());
    }
    discard(stage.file(), stage.failure());
    return new Publisher.Outcome(null, stage.failure(), stage.writing());
  }

  private CheckedSink newFile(Path file) throws IOException {
    return new CheckedSink(disk, file, disk.create(file));
  }

  void discard(Path stage, Exception failed) {
    try {
      if (disk.facts(stage).isPresent()) {
        disk.unlink(stage);
      }
    } catch (IOException second) {
      failed.addSuppressed(second);
    }
  }
}
