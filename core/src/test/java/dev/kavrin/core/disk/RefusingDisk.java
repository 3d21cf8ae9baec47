package dev.kavrin.core.disk;

import dev.kavrin.core.disk.FolderKind.Refusal;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/** Another disk that refuses what folders of a kind refuse, as the real ones do. */
final class RefusingDisk extends ForwardingDisk {
  private static final long TWO_SECONDS = 2_000_000_000L;
  private static final int LONGEST_NAME = 255;

  private final FolderKind kind;
  private final Map<Path, Integer> open = new ConcurrentHashMap<>();

  RefusingDisk(Disk disk, FolderKind kind) {
    super(disk);
    this.kind = kind;
  }

  private boolean refuses(Refusal refusal) {
    return kind.refuses(refusal);
  }

  private static FileSystemException refused(Path path, String why) {
    return new FileSystemException(path.toString(), null, why);
  }

  /** The name as it stands, where names that differ in case alone are one. */
  private Path standing(Path path) throws IOException {
    Path folder = path.getParent();
    if (!refuses(Refusal.CASE) || folder == null || super.facts(path).isPresent()) {
      return path;
    }
    Path there = standing(folder);
    if (super.facts(there).filter(FileFacts::isFolder).isEmpty()) {
      return path;
    }
    String name = path.getFileName().toString();
    return super.list(there).stream()
        .filter(p -> p.getFileName().toString().equalsIgnoreCase(name))
        .findFirst()
        .orElse(there.resolve(name));
  }

  /** A name that is to be given. */
  private Path free(Path path) throws IOException {
    Path there = standing(path);
    boolean taken = super.facts(there).isPresent();
    if (taken && !there.equals(path)) {
      throw new FileAlreadyExistsException(path.toString());
    }
    int bytes = path.getFileName().toString().getBytes(StandardCharsets.UTF_8).length;
    if (refuses(Refusal.LONG_NAMES) && bytes > LONGEST_NAME) {
      throw refused(path, "File name too long");
    }
    return there;
  }

  private void requireClosed(Path path) throws IOException {
    if (refuses(Refusal.WHILE_OPEN) && open.getOrDefault(path, 0) > 0) {
      throw refused(path, "It is being used by another process");
    }
  }

  @Override
  public Optional<FileFacts> facts(Path path) throws IOException {
    Optional<FileFacts> facts = super.facts(standing(path));
    return refuses(Refusal.FINE_TIMES)
        ? facts.map(
            f ->
                new FileFacts(
                    f.kind(),
                    f.size(),
                    f.modifiedNanos() - Math.floorMod(f.modifiedNanos(), TWO_SECONDS),
                    f.key()))
        : facts;
  }

  @Override
  public List<Path> list(Path folder) throws IOException {
    return super.list(standing(folder));
  }

  @Override
  public SeekableByteChannel read(Path file) throws IOException {
    Path there = standing(file);
    SeekableByteChannel in = super.read(there);
    open.merge(there, 1, Integer::sum);
    return new ForwardingChannel(in) {
      private boolean counted = true;

      @Override
      public void close() throws IOException {
        if (counted) {
          counted = false;
          open.merge(there, -1, Integer::sum);
        }
        super.close();
      }
    };
  }

  @Override
  public Sink create(Path file) throws IOException {
    return super.create(free(file));
  }

  @Override
  public Sink append(Path file) throws IOException {
    return super.append(standing(file));
  }

  @Override
  public void makeFolder(Path folder) throws IOException {
    super.makeFolder(free(folder));
  }

  @Override
  public void link(Path existing, Path added) throws IOException {
    if (refuses(Refusal.LINK)) {
      throw refused(added, "Operation not permitted");
    }
    super.link(standing(existing), free(added));
  }

  @Override
  public void unlink(Path file) throws IOException {
    requireClosed(standing(file));
    super.unlink(standing(file));
  }

  @Override
  public void rename(Path from, Path to) throws IOException {
    requireClosed(standing(from));
    requireClosed(standing(to));
    super.rename(standing(from), standing(to));
  }

  @Override
  public boolean renameIfFree(Path from, Path to) throws IOException {
    if (refuses(Refusal.RENAME_IF_FREE)) {
      return false;
    }
    requireClosed(standing(from));
    return super.renameIfFree(standing(from), free(to));
  }

  @Override
  public boolean exchange(Path a, Path b) throws IOException {
    if (refuses(Refusal.EXCHANGE)) {
      return false;
    }
    requireClosed(standing(a));
    requireClosed(standing(b));
    return super.exchange(standing(a), standing(b));
  }

  @Override
  public void touch(Path file, long modifiedNanos) throws IOException {
    super.touch(standing(file), modifiedNanos);
  }

  @Override
  public void seal(Path file) throws IOException {
    if (!refuses(Refusal.PERMISSIONS)) {
      super.seal(standing(file));
    }
  }

  @Override
  public boolean keepsPermissions(Path file) throws IOException {
    return !refuses(Refusal.PERMISSIONS) && super.keepsPermissions(file);
  }

  @Override
  public List<String> adoptOwnership(Path like, Path file) throws IOException {
    return refuses(Refusal.PERMISSIONS)
        ? List.of("its permissions")
        : super.adoptOwnership(standing(like), standing(file));
  }
}
