package dev.kavrin.core.offsite;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.StoreAddress;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Path;

/** Mounted folders through the one port to files, buckets through whoever can reach them. */
public record OffsiteStores(Disk disk, Publisher publisher, Stores buckets) implements Stores {
  @Override
  public Store open(StoreAddress address) throws IOException {
    return address.isFolder()
        ? new FolderStore(disk, publisher, Path.of(URI.create(address.address())))
        : buckets.open(address);
  }
}
