package dev.kavrin.server.platform;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.GatedDisk;
import java.nio.file.Path;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * A disk that must not be asked while a transaction of the records is open: a slow folder would
 * hold locks and connections that others wait for. Found out wherever assertions are on, as in
 * tests; a page that was overlooked is slow then, not broken.
 */
public final class OutsideTransactions extends GatedDisk {
  public OutsideTransactions(Disk disk) {
    super(disk);
  }

  @Override
  protected void pass(Path path) {
    assert !TransactionSynchronizationManager.isActualTransactionActive()
        : path + " was to be touched inside a transaction";
  }
}
