package dev.kavrin.server.platform;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.Sink;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * A disk that must not be asked while a transaction of the records is open: a slow folder would
 * hold locks and connections that others wait for. Found out wherever assertions are on, as in
 * tests; a page that was overlooked is slow then, not broken.
 */
public final class OutsideTransactions extends ForwardingDisk {
  public OutsideTransactions(Disk disk) {
    super(disk);
  }

  private static void require(Path path) {
    assert !TransactionSynchronizationManager.isActualTransactionActive()
        : path + " was to be touched inside a transaction";
  }

  @Override
  public Optional<FileFacts> facts(Path path) throws IOException {
    require(path);
    return super.facts(path);
  }

  @Override
  public List<Path> list(Path folder) throws IOException {
    require(folder);
    return super.list(folder);
  }

  @Override
  public SeekableByteChannel read(Path file) throws IOException {
    require(file);
    return super.read(file);
  }

  @Override
  public Sink create(Path file) throws IOException {
    require(file);
    return super.create(file);
  }

  @Override
  public Sink append(Path file) throws IOException {
    require(file);
    return super.append(file);
  }

  @Override
  public void unlink(Path file) throws IOException {
    require(file);
    super.unlink(file);
  }

  @Override
  public long room(Path folder) throws IOException {
    require(folder);
    return super.room(folder);
  }

  @Override
  public String device(Path path) throws IOException {
    require(path);
    return super.device(path);
  }
}
