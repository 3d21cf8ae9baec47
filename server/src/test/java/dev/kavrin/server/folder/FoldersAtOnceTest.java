package dev.kavrin.server.folder;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.server.RunningKavrin;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** A journal that is followed and a person may tell of the same folder in the same moment. */
class FoldersAtOnceTest {
  private static final int AT_ONCE = 4;
  private static final int TIMES = 25;

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  @Test
  void oneFolderIsRecordedOnceHoweverManyTellOfIt() throws Exception {
    FolderService folders = app.kavrin().bean(FolderService.class);
    tellAtOnce(
        folders,
        n -> folders.known(Path.of("/nowhere/shelf-" + n), new UUID(7, n), FolderRole.RECOVERY));
  }

  /** A start takes a folder in while a person, or a journal that is followed, names it. */
  @Test
  void oneFolderIsMarkedOnceHoweverManyTakeItIn() throws Exception {
    FolderService folders = app.kavrin().bean(FolderService.class);
    Path work = app.work();
    tellAtOnce(
        folders,
        n ->
            folders.ensure(Files.createDirectories(work.resolve("station-" + n)), FolderRole.WORK));
  }

  private interface Telling {
    Folder of(int n) throws Exception;
  }

  private static void tellAtOnce(FolderService folders, Telling telling) throws Exception {
    CyclicBarrier together = new CyclicBarrier(AT_ONCE);
    ExecutorService all = Executors.newFixedThreadPool(AT_ONCE);
    try {
      for (int n = 0; n < TIMES; n++) {
        int folder = n;
        Callable<Folder> one =
            () -> {
              together.await();
              return telling.of(folder);
            };
        List<Folder> told = new ArrayList<>();
        for (Future<Folder> each : all.invokeAll(Collections.nCopies(AT_ONCE, one))) {
          told.add(each.get());
        }
        assertThat(told).allMatch(told.get(0)::equals).hasSize(AT_ONCE);
        assertThat(folders.all().stream().filter(f -> f.path().equals(told.get(0).path())))
            .hasSize(1);
      }
    } finally {
      all.shutdownNow();
    }
  }
}
