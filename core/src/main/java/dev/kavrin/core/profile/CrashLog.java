package dev.kavrin.core.profile;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.naming.Surroundings;
import java.io.IOException;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Where a program itself writes down that it crashed.
 *
 * @param words that stand in such a file then, in any case of letters; empty if there being one
 *     says enough
 */
public record CrashLog(FolderPattern folder, NamePattern pattern, String words) {
  private static final int READ_AT_MOST = 64 * 1024;

  public CrashLog {
    words = words == null ? "" : words.strip();
  }

  /**
   * When such a file was last written since a moment; empty if none was, or its end does not say
   * so.
   *
   * @param mayRead false while no file may be read; only a file whose being there says enough is
   *     found then
   */
  public Optional<Instant> written(Disk disk, Path document, Instant since, boolean mayRead) {
    return folders(disk, document).stream()
        .flatMap(folder -> list(disk, folder).stream())
        .filter(file -> fits(file, document))
        .filter(file -> words.isEmpty() || mayRead && says(disk, file, since))
        .flatMap(file -> modified(disk, file).stream())
        .filter(at -> !at.isBefore(since))
        .max(Comparator.naturalOrder());
  }

  private List<Path> folders(Disk disk, Path document) {
    try {
      return folder.folders(disk, document, Surroundings.here());
    } catch (IllegalArgumentException unset) {
      return List.of();
    }
  }

  private static List<Path> list(Disk disk, Path folder) {
    try {
      return disk.list(folder);
    } catch (IOException away) {
      return List.of();
    }
  }

  private boolean fits(Path file, Path document) {
    FileName name = FileName.of(document.getFileName().toString());
    return pattern.parse(file.getFileName().toString(), name).isPresent();
  }

  private static Optional<Instant> modified(Disk disk, Path file) {
    try {
      return disk.facts(file).filter(FileFacts::isFile).map(FileFacts::modified);
    } catch (IOException away) {
      return Optional.empty();
    }
  }

  /** Older ones are not read. */
  private boolean says(Disk disk, Path file, Instant since) {
    if (modified(disk, file).filter(at -> !at.isBefore(since)).isEmpty()) {
      return false;
    }
    try (SeekableByteChannel in = disk.read(file)) {
      in.position(Math.max(0, in.size() - READ_AT_MOST));
      byte[] end = Channels.newInputStream(in).readNBytes(READ_AT_MOST);
      return new String(end, StandardCharsets.UTF_8)
          .toLowerCase(Locale.ROOT)
          .contains(words.toLowerCase(Locale.ROOT));
    } catch (IOException unreadable) {
      return false;
    }
  }
}
