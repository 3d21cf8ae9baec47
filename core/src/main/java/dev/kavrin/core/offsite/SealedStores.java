package dev.kavrin.core.offsite;

import dev.kavrin.core.journal.StoreAddress;
import java.io.IOException;
import java.util.Optional;

/**
 * Opens stores as they were begun: encrypted or not. A store that was begun one way takes nothing
 * the other way, so that no copy lies open where all are thought to be closed.
 */
public record SealedStores(Stores stores, Passphrases passphrases) implements Stores {
  @Override
  public Store open(StoreAddress address) throws IOException {
    Store store = stores.open(address);
    try {
      Optional<StoreMark> mark = StoreMark.read(store);
      return mark.isEmpty() ? store : opened(store, mark.get().seal(), address);
    } catch (IOException | RuntimeException failed) {
      store.close();
      throw failed;
    }
  }

  private Store opened(Store store, Seal seal, StoreAddress address) throws IOException {
    if (seal == null && address.seal() == null) {
      return store;
    }
    if (seal == null) {
      throw new IOException(
          "It was begun without encryption. Choose another beginning of names for encrypted copies");
    }
    if (address.seal() == null) {
      throw new IOException("It is encrypted. Its passphrase is needed");
    }
    return new SealedStore(store, seal.opened(passphrases.of(address.seal())));
  }
}
