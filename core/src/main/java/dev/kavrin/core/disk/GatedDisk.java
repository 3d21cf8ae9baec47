package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** Another disk with something to be said before it is asked. */
public abstract class GatedDisk extends ForwardingDisk {
  protected GatedDisk(Disk disk) {
    super(disk);
  }

  /** Returns if the disk may be asked about the path. */
  protected abstract void pass(Path path) throws IOException;

  @Override
  public Optional<FileFacts> facts(Path path) throws IOException {
    pass(path);
    return super.facts(path);
  }

  @Override
  public List<Path> list(Path folder) throws IOException {
    pass(folder);
    return super.list(folder);
  }

  @Override
  public SeekableByteChannel read(Path file) throws IOException {
    pass(file);
    return super.read(file);
  }

  @Override
  public Sink create(Path file) throws IOException {
    pass(file);
    return super.create(file);
  }

  @Override
  public Sink append(Path file) throws IOException {
    pass(file);
    return super.append(file);
  }

  @Override
  public void unlink(Path file) throws IOException {
    pass(file);
    super.unlink(file);
  }

  @Override
  public long room(Path folder) throws IOException {
    pass(folder);
    return super.room(folder);
  }

  @Override
  public long capacity(Path folder) throws IOException {
    pass(folder);
    return super.capacity(folder);
  }

  @Override
  public String device(Path path) throws IOException {
    pass(path);
    return super.device(path);
  }
}
