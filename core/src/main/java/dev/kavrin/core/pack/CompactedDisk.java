package dev.kavrin.core.pack;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.ForwardingDisk;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;

/**
 * A disk on which a compacted file stands under its own name: read from its recipe and packs,
 * renamed and taken away by its recipe. Only below a backup folder; where the plain file stands as
 * well, that counts.
 */
public final class CompactedDisk extends ForwardingDisk {
  private static final String KEY = "compacted ";
  private static final Path PACKS = Path.of(".kavrin", "packs");

  private final Disk plain;
  private final PackIndexes indexes = new PackIndexes();

  /**
   * @param plain shows files as they lie there
   */
  public CompactedDisk(Disk plain) {
    super(plain);
    this.plain = plain;
  }

  /** The disk with the files as they lie there: recipes and packs. */
  public Disk plain() {
    return plain;
  }

  /** Where the recipe of a file stands or would stand. */
  public static Path recipeOf(Path file) {
    return file.resolveSibling(file.getFileName() + Recipe.ENDING);
  }

  /** True if what was looked at is put together from packs. */
  public static boolean isCompacted(FileFacts facts) {
    return facts.key().startsWith(KEY);
  }

  /** The backup folder that a recipe lies in; null if it lies in none. */
  private @Nullable Path topOf(Path recipe) throws IOException {
    for (Path p = recipe.getParent(); p != null; p = p.getParent()) {
      if (plain.facts(p.resolve(PACKS)).filter(FileFacts::isFolder).isPresent()) {
        return p;
      }
    }
    return null;
  }

  /** The recipe by which a file stands there that is not there itself; null if there is none. */
  private @Nullable Path recipeFor(Path file) throws IOException {
    return plain.facts(file).isPresent() ? null : recipeOfAbsent(file);
  }

  private @Nullable Path recipeOfAbsent(Path file) throws IOException {
    if (file.getFileName() == null || file.toString().endsWith(Recipe.ENDING)) {
      return null;
    }
    Path recipe = recipeOf(file);
    boolean stands =
        plain.facts(recipe).filter(FileFacts::isFile).isPresent() && topOf(recipe) != null;
    return stands ? recipe : null;
  }

  /**
   * @throws DamagedPackException it is no recipe, or not a whole one
   */
  public Recipe recipe(Path recipe) throws IOException {
    try (SeekableByteChannel in = plain.read(recipe)) {
      if (in.size() > Recipe.LONGEST) {
        throw new DamagedPackException(recipe + " is too long for a recipe");
      }
      byte[] text = Channels.newInputStream(in).readAllBytes();
      return Recipe.parse(new String(text, StandardCharsets.UTF_8), recipe.toString());
    }
  }

  /** Opens what a recipe is of, whatever the recipe's own name is. */
  public SeekableByteChannel unpacked(Path recipe) throws IOException {
    Path top = topOf(recipe);
    if (top == null) {
      throw new NoSuchFileException(recipe.toString(), null, "It lies in no backup folder");
    }
    return unpacked(top, recipe(recipe));
  }

  /** Opens what a recipe is of that need not lie anywhere yet, in a backup folder. */
  public SeekableByteChannel unpacked(Path top, Recipe recipe) {
    return new CompactedChannel(plain, indexes, top, recipe);
  }

  /** What a pack holds; empty if it is damaged. */
  public Optional<PackIndex> wholeIndex(Path pack) throws IOException {
    try {
      return Optional.of(indexes.of(plain, pack));
    } catch (DamagedPackException told) {
      return Optional.empty();
    }
  }

  @Override
  public SeekableByteChannel read(Path file) throws IOException {
    try {
      return plain.read(file);
    } catch (NoSuchFileException absent) {
      Path recipe = recipeOfAbsent(file);
      if (recipe == null) {
        throw absent;
      }
      return unpacked(recipe);
    }
  }

  @Override
  public Optional<FileFacts> facts(Path path) throws IOException {
    Optional<FileFacts> facts = plain.facts(path);
    Path recipe = facts.isPresent() ? null : recipeOfAbsent(path);
    if (recipe == null) {
      return facts;
    }
    Optional<FileFacts> there = plain.facts(recipe);
    if (there.isEmpty()) {
      return there;
    }
    Recipe read = recipe(recipe);
    return Optional.of(
        new FileFacts(
            FileFacts.Kind.FILE, read.length(), read.modifiedNanos(), KEY + there.get().key()));
  }

  @Override
  public List<Path> list(Path folder) throws IOException {
    List<Path> names = plain.list(folder);
    if (names.stream().noneMatch(p -> p.toString().endsWith(Recipe.ENDING))
        || topOf(folder.resolve(Recipe.ENDING)) == null) {
      return names;
    }
    Set<Path> all = new HashSet<>(names);
    List<Path> shown = new ArrayList<>();
    for (Path name : names) {
      String text = name.getFileName().toString();
      if (!text.endsWith(Recipe.ENDING)) {
        shown.add(name);
        continue;
      }
      Path of = name.resolveSibling(text.substring(0, text.length() - Recipe.ENDING.length()));
      if (!all.contains(of)) {
        shown.add(of);
      }
    }
    return shown;
  }

  @Override
  public Move asItLies(Path from, Path to) throws IOException {
    Path recipe = recipeFor(from);
    if (recipeFor(to) != null || recipe != null && facts(to).isPresent()) {
      throw new FileAlreadyExistsException(to.toString());
    }
    if (recipe == null) {
      return plain.asItLies(from, to);
    }
    return new Move(recipe, recipeOf(to));
  }

  @Override
  public void unlink(Path file) throws IOException {
    super.unlink(real(file));
  }

  @Override
  public boolean exchange(Path a, Path b) throws IOException {
    return recipeFor(a) == null && recipeFor(b) == null && super.exchange(a, b);
  }

  @Override
  public boolean cloneTo(Path from, Path to) throws IOException {
    return recipeFor(from) == null && super.cloneTo(from, to);
  }

  private Path real(Path file) throws IOException {
    Path recipe = recipeFor(file);
    return recipe == null ? file : recipe;
  }

  @Override
  public void touch(Path file, long modifiedNanos) throws IOException {
    if (recipeFor(file) != null) {
      throw new FileSystemException(file.toString(), null, "It is compacted and not written to");
    }
    plain.touch(file, modifiedNanos);
  }

  @Override
  public void seal(Path file) throws IOException {
    plain.seal(real(file));
  }

  @Override
  public List<String> adoptOwnership(Path like, Path file) throws IOException {
    return plain.adoptOwnership(real(like), real(file));
  }

  @Override
  public List<String> cannotKeep(Path file) throws IOException {
    return plain.cannotKeep(real(file));
  }

  @Override
  public boolean keepsPermissions(Path file) throws IOException {
    return plain.keepsPermissions(real(file));
  }

  @Override
  public String device(Path path) throws IOException {
    return plain.device(real(path));
  }

  @Override
  public Optional<Instant> born(Path file) throws IOException {
    return plain.born(real(file));
  }

  @Override
  public OptionalLong holes(Path file) throws IOException {
    return recipeFor(file) == null ? plain.holes(file) : OptionalLong.empty();
  }
}
