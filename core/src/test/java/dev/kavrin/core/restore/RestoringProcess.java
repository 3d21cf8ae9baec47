package dev.kavrin.core.restore;

import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.UUID;

/** Restores a group and takes it back until it is killed. */
final class RestoringProcess {
  private RestoringProcess() {}

  public static void main(String[] args) throws IOException {
    Sheets sheets = new Sheets(new RealDisk(), Path.of(args[0])).begin();
    System.out.println("begun");
    while (true) {
      UUID group = UUID.randomUUID();
      List<Receipt> receipts = sheets.restore(group);
      sheets.undo(UUID.randomUUID(), group, receipts);
    }
  }
}
