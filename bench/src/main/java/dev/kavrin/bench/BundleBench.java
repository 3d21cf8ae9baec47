package dev.kavrin.bench;

import dev.kavrin.core.bundle.BagWriter;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Packing 2 GB with 500 linked files, against {@code cp} and {@code sha256sum} of the same. */
final class BundleBench {
  private static final int LINKED = 500;
  private static final long DOCUMENT = 1_000_000_000;
  private static final long EACH = 2_000_000;

  private BundleBench() {}

  static void run(Path folder) throws Exception {
    Path work = Files.createDirectories(folder.resolve("work/pictures")).getParent();
    List<BagWriter.Item> items = new ArrayList<>();
    Samples.fill(work.resolve("station.glb"), DOCUMENT, 1);
    items.add(new BagWriter.Item(work.resolve("station.glb"), "station.glb"));
    for (int i = 0; i < LINKED; i++) {
      String name = "pictures/tile-" + i + ".png";
      Samples.fill(work.resolve(name), EACH, 2 + i);
      items.add(new BagWriter.Item(work.resolve(name), name));
    }
    Disk disk = Disks.answering();
    BagWriter writer = new BagWriter(disk, new Publisher(disk, "bench"));
    BagWriter.Order order =
        new BagWriter.Order(items, Map.of(), Map.of(), LocalDate.of(2031, 3, 3));
    Path copied = folder.resolve("copied");
    Contest.run(
        "bundle: 2 GB with 500 linked files into a bag, flushed, in the page cache",
        5,
        1.3,
        turn -> {
          Path bag = folder.resolve("bag-" + turn);
          long start = System.nanoTime();
          writer.write(order, bag, bytes -> {});
          double seconds = (System.nanoTime() - start) / 1e9;
          Samples.clearAll(bag);
          return seconds;
        },
        "cp, sha256sum",
        turn -> {
          double seconds =
              Contest.command("cp", "-r", "--reflink=never", work.toString(), copied.toString())
                  + Contest.command("sh", "-c", "find '" + copied + "' -type f -exec sync {} +")
                  + Contest.command("sh", "-c", "find '" + work + "' -type f -exec sha256sum {} +");
          Samples.clearAll(copied);
          return seconds;
        });
  }
}
