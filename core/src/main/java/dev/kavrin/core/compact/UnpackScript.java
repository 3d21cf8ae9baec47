package dev.kavrin.core.compact;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;

/** The script by which anybody can unpack compacted versions without Kavrin. */
final class UnpackScript {
  static final String NAME = "unpack.sh";

  private UnpackScript() {}

  /** Puts it on top of a backup folder, where something of that name stays as it is. */
  static void layDown(Disk disk, Publisher publisher, Path top) throws IOException {
    Path file = top.resolve(NAME);
    if (disk.facts(file).isPresent()) {
      return;
    }
    byte[] script = script();
    publisher.publish(file, sink -> sink.write(script, 0, script.length), PublishCheck.NONE);
  }

  private static byte[] script() throws IOException {
    try (InputStream in = UnpackScript.class.getResourceAsStream(NAME)) {
      if (in == null) {
        throw new IOException(NAME + " is missing in this installation");
      }
      return in.readAllBytes();
    }
  }
}
