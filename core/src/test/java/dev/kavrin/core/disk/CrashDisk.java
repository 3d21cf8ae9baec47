package dev.kavrin.core.disk;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * A disk in memory that remembers every step, so that each state a power loss could leave can be
 * made: bytes not flushed may be missing, names not flushed may be missing or still there.
 */
public final class CrashDisk implements Disk {
  private static final boolean FULL = Boolean.getBoolean("kavrin.full");
  private static final double[] CHANCES =
      FULL ? new double[] {0, 0.3, 0.5, 0.8, 1} : new double[] {0, 0.5, 1};
  private static final int ROUNDS = FULL ? 4 : 1;

  /** One file, whatever names it has. */
  private static final class Node {
    private final long number;
    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    private long modified = 1_000_000_000L;

    Node(long number) {
      this.number = number;
    }
  }

  private sealed interface Step {
    record Name(Path path, Node node) implements Step {}

    record Folder(Path path, boolean there) implements Step {}

    record Swap(Path a, Path b) implements Step {}

    record Move(Path from, Path to) implements Step {}

    record Write(Node node, int end) implements Step {}

    record FlushBytes(Node node) implements Step {}

    record FlushNames(Path folder) implements Step {}
  }

  private final Map<Path, Node> names = new TreeMap<>();
  private final Set<Path> folders = new TreeSet<>();
  private final List<Step> steps = new ArrayList<>();
  private final Map<Path, Node> baseNames = new TreeMap<>();
  private final Set<Path> baseFolders = new TreeSet<>();
  private final Map<Node, Integer> baseLengths = new HashMap<>();
  private long numbers;

  public CrashDisk() {
    folders.add(Path.of("/"));
  }

  /** Steps so far; a crash can be made after any of them. */
  public int steps() {
    return steps.size();
  }

  /**
   * States that could stand after a crash behind the first {@code upTo} steps: of what was not
   * flushed nothing, half and all survived; in the full run other shares too, several times over.
   */
  public List<CrashDisk> states(int upTo) {
    List<CrashDisk> all = new ArrayList<>();
    for (double chance : CHANCES) {
      boolean sure = chance == 0 || chance == 1;
      for (int round = 0; round < (sure ? 1 : ROUNDS); round++) {
        all.add(after(upTo, new Random(31L * upTo + round), chance));
      }
    }
    return all;
  }

  /**
   * What could stand after a crash behind the first {@code upTo} steps.
   *
   * @param random decides which steps that were not flushed survived
   * @param chance share of unflushed steps that survive, 0 none to 1 all
   */
  public CrashDisk after(int upTo, Random random, double chance) {
    CrashDisk left = new CrashDisk();
    Map<Node, Node> made = new HashMap<>();
    Map<Node, Integer> flushed = new HashMap<>(baseLengths);
    Map<Node, Integer> written = new HashMap<>(baseLengths);
    left.folders.addAll(baseFolders);
    baseNames.forEach(
        (path, node) ->
            left.names.put(path, made.computeIfAbsent(node, n -> new Node(++left.numbers))));
    for (int i = 0; i < upTo; i++) {
      Step step = steps.get(i);
      if (step instanceof Step.Write w) {
        written.put(w.node(), w.end());
      } else if (step instanceof Step.FlushBytes f) {
        flushed.put(f.node(), written.getOrDefault(f.node(), 0));
      } else if (!(step instanceof Step.FlushNames) && survives(i, upTo, random, chance)) {
        left.apply(step, node -> made.computeIfAbsent(node, n -> new Node(++left.numbers)));
      }
    }
    left.dropWhatHasNoFolder();
    made.forEach(
        (old, node) -> {
          int sure = flushed.getOrDefault(old, 0);
          int all = written.getOrDefault(old, 0);
          int kept = random.nextDouble() < chance ? all : sure;
          node.bytes.write(old.bytes.toByteArray(), 0, kept);
          node.modified = old.modified;
        });
    left.begin();
    return left;
  }

  /** What stands now is on the device, whatever is done from here on. */
  private void begin() {
    baseNames.putAll(names);
    baseFolders.addAll(folders);
    names.values().forEach(n -> baseLengths.put(n, n.bytes.size()));
  }

  /** A name in a folder whose own name did not reach the device is lost with it. */
  private void dropWhatHasNoFolder() {
    folders.removeIf(f -> f.getParent() != null && !stands(f.getParent()));
    names.keySet().removeIf(p -> !stands(p.getParent()));
  }

  private boolean stands(Path folder) {
    for (Path f = folder; f != null; f = f.getParent()) {
      if (!folders.contains(f)) {
        return false;
      }
    }
    return true;
  }

  private interface Making {
    Node of(Node old);
  }

  private void apply(Step step, Making making) {
    if (step instanceof Step.Name n) {
      if (n.node() == null) {
        names.remove(n.path());
      } else {
        names.put(n.path(), making.of(n.node()));
      }
    } else if (step instanceof Step.Folder f) {
      if (f.there()) {
        folders.add(f.path());
      } else {
        folders.remove(f.path());
      }
    } else if (step instanceof Step.Move m && names.containsKey(m.from())) {
      names.put(m.to(), names.remove(m.from()));
    } else if (step instanceof Step.Swap s
        && names.containsKey(s.a())
        && names.containsKey(s.b())) {
      Node held = names.get(s.a());
      names.put(s.a(), names.get(s.b()));
      names.put(s.b(), held);
    }
  }

  private boolean survives(int step, int upTo, Random random, double chance) {
    for (int i = step + 1; i < upTo; i++) {
      if (steps.get(i) instanceof Step.FlushNames f && touches(steps.get(step), f.folder())) {
        return true;
      }
    }
    return random.nextDouble() < chance;
  }

  private static boolean touches(Step step, Path folder) {
    if (step instanceof Step.Name n) {
      return n.path().getParent().equals(folder);
    }
    if (step instanceof Step.Folder f) {
      return folder.equals(f.path().getParent());
    }
    if (step instanceof Step.Swap s) {
      return s.a().getParent().equals(folder) || s.b().getParent().equals(folder);
    }
    return step instanceof Step.Move m && m.to().getParent().equals(folder);
  }

  private Node node(Path file) throws NoSuchFileException {
    Node node = names.get(file);
    if (node == null) {
      throw new NoSuchFileException(file.toString());
    }
    return node;
  }

  private void put(Path path, Node node) {
    if (node == null) {
      names.remove(path);
    } else {
      names.put(path, node);
    }
    steps.add(new Step.Name(path, node));
  }

  @Override
  public synchronized Optional<FileFacts> facts(Path path) {
    if (folders.contains(path)) {
      return Optional.of(new FileFacts(FileFacts.Kind.FOLDER, 0, 0, "folder:" + path));
    }
    return Optional.ofNullable(names.get(path))
        .map(n -> new FileFacts(FileFacts.Kind.FILE, n.bytes.size(), n.modified, "1:" + n.number));
  }

  @Override
  public synchronized List<Path> list(Path folder) throws IOException {
    if (!folders.contains(folder)) {
      throw new NoSuchFileException(folder.toString());
    }
    List<Path> found = new ArrayList<>();
    names.keySet().stream().filter(p -> folder.equals(p.getParent())).forEach(found::add);
    folders.stream().filter(p -> folder.equals(p.getParent())).forEach(found::add);
    return found;
  }

  @Override
  public synchronized SeekableByteChannel read(Path file) throws IOException {
    return new Reading(node(file).bytes.toByteArray());
  }

  @Override
  public synchronized Sink create(Path file) throws IOException {
    if (names.containsKey(file) || folders.contains(file)) {
      throw new FileAlreadyExistsException(file.toString());
    }
    if (!folders.contains(file.getParent())) {
      throw new NoSuchFileException(file.toString());
    }
    Node node = new Node(++numbers);
    put(file, node);
    return sink(node);
  }

  @Override
  public synchronized Sink append(Path file) throws IOException {
    return names.containsKey(file) ? sink(node(file)) : create(file);
  }

  private Sink sink(Node node) {
    return new Sink() {
      @Override
      public void write(byte[] bytes, int offset, int count) {
        node.bytes.write(bytes, offset, count);
        steps.add(new Step.Write(node, node.bytes.size()));
      }

      @Override
      public void flush() {
        steps.add(new Step.FlushBytes(node));
      }

      @Override
      public void close() {
        // nothing is held
      }
    };
  }

  @Override
  public synchronized void removeFolder(Path folder) throws IOException {
    if (!list(folder).isEmpty()) {
      throw new java.nio.file.DirectoryNotEmptyException(folder.toString());
    }
    folders.remove(folder);
    steps.add(new Step.Folder(folder, false));
  }

  @Override
  public synchronized void makeFolder(Path folder) throws IOException {
    if (folders.contains(folder) || names.containsKey(folder)) {
      throw new FileAlreadyExistsException(folder.toString());
    }
    if (!folders.contains(folder.getParent())) {
      throw new NoSuchFileException(folder.toString());
    }
    folders.add(folder);
    steps.add(new Step.Folder(folder, true));
  }

  @Override
  public synchronized void link(Path existing, Path added) throws IOException {
    Node node = node(existing);
    if (names.containsKey(added)) {
      throw new FileAlreadyExistsException(added.toString());
    }
    put(added, node);
  }

  @Override
  public synchronized void unlink(Path file) throws IOException {
    node(file);
    put(file, null);
  }

  @Override
  public synchronized void rename(Path from, Path to) throws IOException {
    names.put(to, node(from));
    names.remove(from);
    steps.add(new Step.Move(from, to));
  }

  @Override
  public synchronized boolean exchange(Path a, Path b) throws IOException {
    Node held = node(a);
    names.put(a, node(b));
    names.put(b, held);
    steps.add(new Step.Swap(a, b));
    return true;
  }

  @Override
  public synchronized boolean renameIfFree(Path from, Path to) throws IOException {
    node(from);
    if (names.containsKey(to)) {
      throw new FileAlreadyExistsException(to.toString());
    }
    rename(from, to);
    return true;
  }

  @Override
  public boolean cloneTo(Path from, Path to) {
    return false;
  }

  @Override
  public String device(Path path) {
    return "1";
  }

  @Override
  public OptionalLong holes(Path file) {
    return OptionalLong.empty();
  }

  @Override
  public boolean keepsPermissions(Path file) {
    return true;
  }

  @Override
  public List<String> cannotKeep(Path file) {
    return List.of();
  }

  @Override
  public synchronized void flushFolder(Path folder) {
    steps.add(new Step.FlushNames(folder));
  }

  @Override
  public long room(Path folder) {
    return 1_000_000_000_000L;
  }

  @Override
  public long capacity(Path folder) {
    return 2_000_000_000_000L;
  }

  @Override
  public boolean mayBeWritten(Path file) {
    return false;
  }

  @Override
  public synchronized void seal(Path file) {
    throw new UnsupportedOperationException("not recorded: " + file);
  }

  @Override
  public synchronized void touch(Path file, long modifiedNanos) throws IOException {
    node(file).modified = modifiedNanos;
  }

  @Override
  public synchronized List<String> adoptOwnership(Path like, Path file) throws IOException {
    node(like);
    node(file);
    return List.of();
  }

  private static final class Reading implements SeekableByteChannel {
    private final byte[] bytes;
    private int at;
    private boolean open = true;

    Reading(byte[] bytes) {
      this.bytes = bytes;
    }

    @Override
    public int read(ByteBuffer target) throws IOException {
      if (!open) {
        throw new ClosedChannelException();
      }
      int n = Math.min(target.remaining(), bytes.length - at);
      if (n <= 0) {
        return target.hasRemaining() ? -1 : 0;
      }
      target.put(bytes, at, n);
      at += n;
      return n;
    }

    @Override
    public int write(ByteBuffer source) {
      throw new UnsupportedOperationException();
    }

    @Override
    public long position() {
      return at;
    }

    @Override
    public SeekableByteChannel position(long position) {
      at = (int) position;
      return this;
    }

    @Override
    public long size() {
      return bytes.length;
    }

    @Override
    public SeekableByteChannel truncate(long size) {
      throw new UnsupportedOperationException();
    }

    @Override
    public boolean isOpen() {
      return open;
    }

    @Override
    public void close() {
      open = false;
    }
  }

  @Override
  public Optional<Instant> born(Path file) {
    return Optional.empty();
  }
}
