package dev.kavrin.core.offsite;

import dev.kavrin.core.chunk.Sha256;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.NoSuchFileException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;

/** A store in memory that fails, or has its caller killed, at a call one names. */
final class UnsureStore implements Store {
  /** The process ends in the middle of a call. */
  static final class Killed extends Error {
    private static final long serialVersionUID = 1;
  }

  final TreeMap<String, byte[]> objects = new TreeMap<>();
  final List<String> puts = new ArrayList<>();
  final List<String> gets = new ArrayList<>();
  final Set<String> locked = new HashSet<>();
  int calls;
  int failsAt = -1;
  int killsAt = -1;
  boolean away;

  /** Says by its own checksum what arrived. */
  boolean proves;

  /** Told of each object that arrived. */
  Runnable onPut = () -> {};

  /** How many of the last names a list leaves out. */
  int unlisted;

  /** Half of all calls that change something take effect although their answer is lost. */
  private boolean call() throws IOException {
    calls++;
    if (away) {
      throw new IOException("no route to the store");
    }
    boolean stops = calls == failsAt || calls == killsAt;
    return stops && calls % 2 == 0;
  }

  private void end() throws IOException {
    if (calls == killsAt) {
      throw new Killed();
    }
    if (calls == failsAt) {
      throw new IOException("500 at call " + calls);
    }
  }

  @Override
  public List<StoredObject> list(String begin) throws IOException {
    call();
    end();
    List<StoredObject> all = all(begin);
    return all.subList(0, Math.max(0, all.size() - unlisted));
  }

  private List<StoredObject> all(String begin) {
    return objects.tailMap(begin).entrySet().stream()
        .takeWhile(e -> e.getKey().startsWith(begin))
        .map(e -> new StoredObject(e.getKey(), e.getValue().length, null, Sha256.of(e.getValue())))
        .toList();
  }

  @Override
  public List<String> folders(String begin) throws IOException {
    return list(begin).stream()
        .map(o -> o.name().substring(begin.length()))
        .filter(n -> n.contains("/"))
        .map(n -> n.substring(0, n.indexOf('/')))
        .distinct()
        .toList();
  }

  @Override
  public Optional<StoredObject> find(String name) throws IOException {
    call();
    end();
    return all(name).stream().filter(o -> o.name().equals(name)).findFirst();
  }

  @Override
  public Arrival put(String name, Body body) throws IOException {
    boolean arrives = call();
    boolean stops = calls == failsAt || calls == killsAt;
    boolean free = !objects.containsKey(name);
    if (free && (!stops || arrives)) {
      try (InputStream in = body.from(0)) {
        objects.put(name, in.readAllBytes());
        puts.add(name);
        onPut.run();
      }
    }
    end();
    if (!free) {
      return Arrival.NAME_TAKEN;
    }
    return proves ? Arrival.PROVEN : Arrival.UNPROVEN;
  }

  @Override
  public InputStream get(String name) throws IOException {
    call();
    end();
    gets.add(name);
    byte[] bytes = objects.get(name);
    if (bytes == null) {
      throw new NoSuchFileException(name);
    }
    return new ByteArrayInputStream(bytes);
  }

  @Override
  public void delete(String name) throws IOException {
    call();
    end();
    if (locked.contains(name)) {
      throw new RefusedException("locked until 2032");
    }
    objects.remove(name);
  }
}
