package dev.kavrin.core.offsite;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Optional;

/** A store whose objects are encrypted, all but its mark; their names and lengths can be seen. */
final class SealedStore implements Store {
  private final Store store;
  private final Seal.Key key;

  SealedStore(Store store, Seal.Key key) {
    this.store = store;
    this.key = key;
  }

  private static boolean isPlain(String name) {
    return name.equals(StoreMark.NAME);
  }

  private static StoredObject held(StoredObject object) {
    return isPlain(object.name())
        ? object
        : new StoredObject(
            object.name(), SealedFrame.held(object.length()), object.modified(), null);
  }

  @Override
  public List<StoredObject> list(String begin) throws IOException {
    return store.list(begin).stream().map(SealedStore::held).toList();
  }

  @Override
  public List<String> folders(String begin) throws IOException {
    return store.folders(begin);
  }

  @Override
  public Optional<StoredObject> find(String name) throws IOException {
    return store.find(name).map(SealedStore::held);
  }

  @Override
  public Arrival put(String name, Body body) throws IOException {
    return store.put(name, isPlain(name) ? body : new SealedFrame(key, name).seal(body));
  }

  @Override
  public InputStream get(String name) throws IOException {
    InputStream in = store.get(name);
    if (isPlain(name)) {
      return in;
    }
    try {
      return new SealedFrame(key, name).open(in);
    } catch (IOException | RuntimeException notOurs) {
      in.close();
      throw notOurs;
    }
  }

  @Override
  public void delete(String name) throws IOException {
    store.delete(name);
  }

  @Override
  public int atOnce() {
    return store.atOnce();
  }

  @Override
  public void close() {
    store.close();
  }
}
