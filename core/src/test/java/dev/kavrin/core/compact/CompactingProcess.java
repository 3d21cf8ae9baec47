package dev.kavrin.core.compact;

import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.plan.Compacting;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Random;

/** Backs up, compacts, drops and clears up until it is killed. */
final class CompactingProcess {
  private static final int LENGTH = 300_000;

  private CompactingProcess() {}

  public static void main(String[] args) throws IOException {
    Path root = Path.of(args[0]);
    Random random = new Random(Long.parseLong(args[1]));
    Shelf shelf = Shelf.again(new RealDisk(), root);
    List<BackupRecord> all = shelf.standing();
    byte[] model = all.isEmpty() ? new byte[LENGTH] : shelf.read(all.get(all.size() - 1));
    shelf.now = all.isEmpty() ? shelf.now : all.get(all.size() - 1).workTo();
    System.out.println("begun");
    for (int n = 0; ; n++) {
      byte[] piece = new byte[8_000];
      random.nextBytes(piece);
      System.arraycopy(piece, 0, model, random.nextInt(LENGTH - piece.length), piece.length);
      System.out.println(shelf.add(model).content());
      shelf.compact(
          Compactable.of(shelf.folder.history(), Shelf.DOCUMENT, new Compacting(true, 1, 6)));
      if (n % 5 == 4) {
        List<BackupRecord> standing = shelf.standing();
        shelf.drop(standing.get(random.nextInt(standing.size() - 1)));
        shelf.now = shelf.now.plus(Duration.ofDays(20));
        shelf.retention.emptyBin();
        shelf.cleanup.clean(shelf.folder);
      }
    }
  }
}
