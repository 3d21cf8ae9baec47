package dev.kavrin.core.compact;

import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SameBytes;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.OperationRun;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.pack.DamagedPackException;
import dev.kavrin.core.pack.PackIndex;
import dev.kavrin.core.pack.PackWriter;
import dev.kavrin.core.pack.Recipe;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;

/**
 * Frees the room of packs of which little is needed. What is needed is told by the recipes that lie
 * in the folder, never by records: a pack goes only if no recipe names it, and where a recipe
 * cannot be read none goes.
 */
public final class PackCleanup {
  private static final int DEEPEST = 30;

  private final CompactedDisk disk;
  private final Publisher publisher;
  private final OperationRun operations;

  public PackCleanup(CompactedDisk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.operations = new OperationRun(disk, publisher, clock);
  }

  /** A recipe in its place. */
  private record Found(Path file, Recipe recipe) {}

  /** Frees what can be; bytes that went. */
  public long clean(BackupFolder folder) throws IOException {
    folder.packing().lock();
    try {
      return cleaned(folder);
    } finally {
      folder.packing().unlock();
    }
  }

  private long cleaned(BackupFolder folder) throws IOException {
    folder.requireHere();
    Packs packs = new Packs(disk, folder);
    long freed = clear(folder, packs, recipes(folder));
    for (Path document : packs.folders()) {
      List<Found> recipes = recipes(folder);
      List<Path> sparse = new ArrayList<>();
      for (Path pack : packs.in(document)) {
        if (isSparse(pack, needed(recipes, packs.name(pack)))) {
          sparse.add(pack);
        }
      }
      if (!sparse.isEmpty() && !folder.dropsPaused().get()) {
        repack(folder, packs, document, sparse, recipes);
      }
    }
    return freed + clear(folder, packs, recipes(folder));
  }

  private List<Found> recipes(BackupFolder folder) throws IOException {
    List<Found> found = new ArrayList<>();
    for (Path top : disk.plain().list(folder.root())) {
      if (!top.endsWith(FolderMarker.FOLDER)) {
        recipes(top, 0, found);
      }
    }
    recipes(folder.bin(), 0, found);
    return found;
  }

  private void recipes(Path at, int depth, List<Found> found) throws IOException {
    FileFacts facts = disk.plain().facts(at).orElse(null);
    if (facts == null || depth > DEEPEST) {
      return;
    }
    if (facts.isFile() && at.toString().endsWith(Recipe.ENDING)) {
      found.add(new Found(at, disk.recipe(at)));
    } else if (facts.isFolder()) {
      for (Path path : disk.plain().list(at)) {
        recipes(path, depth + 1, found);
      }
    }
  }

  /** Ranges of a pack that recipes need, by offset. */
  private static TreeMap<Long, Long> needed(List<Found> recipes, String pack) {
    TreeMap<Long, Long> ends = new TreeMap<>();
    for (Found found : recipes) {
      for (Recipe.Range range : found.recipe.ranges()) {
        if (range.pack().equals(pack)) {
          ends.merge(range.offset(), range.offset() + range.packed(), Math::max);
        }
      }
    }
    return ends;
  }

  private boolean isSparse(Path pack, TreeMap<Long, Long> needed) throws IOException {
    long live = 0;
    long at = 0;
    for (Map.Entry<Long, Long> range : needed.entrySet()) {
      live += Math.max(0, range.getValue() - Math.max(at, range.getKey()));
      at = Math.max(at, range.getValue());
    }
    long needs = live;
    return needs > 0 && disk.wholeIndex(pack).filter(i -> needs * 2 < i.end()).isPresent();
  }

  private long clear(BackupFolder folder, Packs packs, List<Found> recipes) throws IOException {
    long freed = 0;
    for (Path document : packs.folders()) {
      for (Path pack : packs.in(document)) {
        if (!folder.dropsPaused().get() && needed(recipes, packs.name(pack)).isEmpty()) {
          freed += disk.facts(pack).map(FileFacts::size).orElse(0L);
          clear(folder, pack);
        }
      }
    }
    return freed;
  }

  private void clear(BackupFolder folder, Path pack) throws IOException {
    String name = folder.relative(pack);
    operations.of(
        folder,
        Operation.of(new Operation.ClearPack(name)),
        () -> publisher.purge(folder.owned(name)));
  }

  /** The needed frames of some packs in one new one; then new recipes for who needs them. */
  private void repack(
      BackupFolder folder, Packs packs, Path document, List<Path> sparse, List<Found> recipes)
      throws IOException {
    Path pack = packs.fresh(UUID.fromString(document.getFileName().toString()));
    Moved moved = new Moved(packs.name(pack));
    int scale = disk.wholeIndex(sparse.get(0)).orElseThrow().scale();
    publisher.publish(
        pack,
        sink -> {
          try (PackWriter writer = new PackWriter(sink, scale)) {
            for (Path old : sparse) {
              copy(packs, old, recipes, writer, moved);
            }
            writer.end();
          }
        },
        PublishCheck.NONE);
    for (Found found : recipes) {
      if (found.recipe.ranges().stream().anyMatch(r -> moved.frames.containsKey(r.pack()))) {
        replace(folder, found, moved.rewritten(found.recipe));
      }
    }
  }

  private void copy(Packs packs, Path old, List<Found> recipes, PackWriter writer, Moved moved)
      throws IOException {
    PackIndex index = disk.wholeIndex(old).orElseThrow();
    String name = packs.name(old);
    try (SeekableByteChannel in = disk.plain().read(old)) {
      for (Found found : recipes) {
        for (Recipe.Range range : found.recipe.ranges()) {
          if (range.pack().equals(name)) {
            for (PackIndex.Frame frame : index.in(range)) {
              moved.take(name, frame, in, writer);
            }
          }
        }
      }
      moved.indexes.put(name, index);
    }
  }

  /** Where frames of former packs stand now. */
  private static final class Moved {
    private final String pack;
    private final Map<String, Map<Long, PackIndex.Frame>> frames = new HashMap<>();
    private final Map<String, PackIndex> indexes = new HashMap<>();

    Moved(String pack) {
      this.pack = pack;
    }

    void take(String old, PackIndex.Frame frame, SeekableByteChannel in, PackWriter writer)
        throws IOException {
      Map<Long, PackIndex.Frame> of = frames.computeIfAbsent(old, k -> new HashMap<>());
      if (of.containsKey(frame.offset())) {
        return;
      }
      ByteBuffer packed = ByteBuffer.allocate(frame.packed());
      in.position(frame.offset());
      while (packed.hasRemaining()) {
        if (in.read(packed) < 0) {
          throw new DamagedPackException(old + " ends too early");
        }
      }
      of.put(frame.offset(), writer.copy(frame.chunk(), packed.array()));
    }

    Recipe rewritten(Recipe recipe) throws IOException {
      Recipe.Ranges ranges = new Recipe.Ranges();
      for (Recipe.Range range : recipe.ranges()) {
        Map<Long, PackIndex.Frame> now = frames.get(range.pack());
        if (now == null) {
          ranges.add(range);
          continue;
        }
        for (PackIndex.Frame frame : indexes.get(range.pack()).in(range)) {
          ranges.add(pack, now.get(frame.offset()));
        }
      }
      return new Recipe(recipe.length(), recipe.sha256(), recipe.modifiedNanos(), ranges.all());
    }
  }

  private void replace(BackupFolder folder, Found found, Recipe recipe) throws IOException {
    byte[] text = recipe.written().getBytes(StandardCharsets.UTF_8);
    String file = found.file.toString();
    Path backup = Path.of(file.substring(0, file.length() - Recipe.ENDING.length()));
    Path aside = folder.bin().resolve(UUID.randomUUID().toString());
    Operation operation =
        Operation.of(new Operation.Recompact(folder.relative(backup), folder.relative(aside)));
    Path former = CompactedDisk.recipeOf(aside);
    requireSame(folder, recipe, found);
    folder.moving().lock();
    try {
      if (disk.plain().facts(found.file).isEmpty()) {
        return;
      }
      operations.of(
          folder,
          operation,
          () -> {
            disk.makeFolders(folder.bin());
            publisher.publish(former, sink -> sink.write(text, 0, text.length), PublishCheck.NONE);
            publisher.replace(found.file, former);
            publisher.purge(former);
          });
    } finally {
      folder.moving().unlock();
    }
  }

  /** Byte by byte, before the other recipe stands anywhere. */
  private void requireSame(BackupFolder folder, Recipe recipe, Found former) throws IOException {
    try (SeekableByteChannel a = disk.unpacked(folder.root(), recipe);
        SeekableByteChannel b = disk.unpacked(folder.root(), former.recipe)) {
      if (!SameBytes.in(a, b)) {
        throw new DamagedPackException(
            former.file + " does not unpack to the same bytes from other packs. It stays as it is");
      }
    }
  }
}
