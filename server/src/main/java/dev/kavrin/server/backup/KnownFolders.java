package dev.kavrin.server.backup;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Sink;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.UUID;

/** Recovery folders this node writes, in a file that is only ever added to. Needs no database. */
final class KnownFolders {
  private final Disk disk;
  private final Path file;
  @Nullable private Map<UUID, Path> known;

  KnownFolders(Disk disk, Path data) {
    this.disk = disk;
    this.file = data.resolve("recovery-folders");
  }

  synchronized Map<UUID, Path> all() throws IOException {
    if (known == null) {
      known = read();
    }
    return Map.copyOf(known);
  }

  private Map<UUID, Path> read() throws IOException {
    Map<UUID, Path> known = new LinkedHashMap<>();
    if (Files.exists(file)) {
      for (String line : Files.readAllLines(file)) {
        int space = line.indexOf(' ');
        if (space == 36) {
          known.put(UUID.fromString(line.substring(0, space)), Path.of(line.substring(space + 1)));
        }
      }
    }
    return known;
  }

  synchronized void add(UUID uuid, Path path) throws IOException {
    if (path.equals(all().get(uuid))) {
      return;
    }
    byte[] line = (uuid + " " + path + "\n").getBytes(StandardCharsets.UTF_8);
    try (Sink sink = disk.append(file)) {
      sink.write(line, 0, line.length);
      sink.flush();
    }
    known.put(uuid, path);
  }
}
