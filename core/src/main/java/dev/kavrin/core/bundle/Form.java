package dev.kavrin.core.bundle;

import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Sink;
import java.io.IOException;
import java.nio.file.Path;

/** How a file is written into a bag; the same file always gives the same bytes. */
@FunctionalInterface
public interface Form {
  /** Byte for byte. */
  Form AS_IT_IS = Copying::copy;

  void write(Disk disk, Path source, Sink out) throws IOException;
}
