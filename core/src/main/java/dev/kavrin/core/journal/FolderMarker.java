package dev.kavrin.core.journal;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.Channels;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import tools.jackson.core.JacksonException;

/**
 * The file that makes a folder a place, wherever it is mounted. Without it the place is away.
 *
 * @param uuid of the place
 * @param node the one installation that may write and drop here
 */
public record FolderMarker(UUID uuid, String role, String node, Instant made) {
  public static final String FOLDER = ".kavrin";
  private static final String NAME = "place.json";

  /** Empty if no readable marker stands there. */
  public static Optional<FolderMarker> read(Disk disk, Path place) throws IOException {
    Path file = place.resolve(FOLDER).resolve(NAME);
    if (disk.facts(file).filter(f -> f.isFile() && f.size() < 10_000).isEmpty()) {
      return Optional.empty();
    }
    try (InputStream in = Channels.newInputStream(disk.read(file))) {
      return Optional.of(Journal.MAPPER.readValue(in, FolderMarker.class));
    } catch (JacksonException notOurs) {
      return Optional.empty();
    }
  }

  /** Puts the marker down; fails if one stands there. */
  public void write(Disk disk, Publisher publisher, Path place) throws IOException {
    disk.makeFolders(place.resolve(FOLDER));
    byte[] text = Journal.MAPPER.writeValueAsBytes(this);
    publisher.publish(
        place.resolve(FOLDER).resolve(NAME),
        sink -> sink.write(text, 0, text.length),
        PublishCheck.NONE);
  }

  /**
   * Puts the marker down unless one stands there, and gives the one that stands: of two who do so
   * at once, both get the sooner one's.
   *
   * @throws FileAlreadyExistsException what stands there is no marker; it was not touched
   */
  public FolderMarker writeUnlessOneStands(Disk disk, Publisher publisher, Path place)
      throws IOException {
    try {
      write(disk, publisher, place);
      return this;
    } catch (FileAlreadyExistsException sooner) {
      return read(disk, place).orElseThrow(() -> sooner);
    }
  }
}
