package dev.kavrin.core.health;

import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.disk.WatchedChannel;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;

/** Files beside the one that is read, which remember whether their device failed. */
final class WatchedSiblings implements SiblingFiles {
  private final SiblingFiles files;
  private final List<WatchedChannel> opened = new ArrayList<>();

  WatchedSiblings(SiblingFiles files) {
    this.files = files;
  }

  @Override
  public Optional<SeekableByteChannel> open(String path) throws IOException {
    Optional<SeekableByteChannel> file = files.open(path);
    if (file.isEmpty()) {
      return file;
    }
    WatchedChannel watched = new WatchedChannel(file.get());
    opened.add(watched);
    return Optional.of(watched);
  }

  /** The first failure to read one of them; null if there was none. */
  @Nullable
  IOException failure() {
    return opened.stream()
        .map(WatchedChannel::failure)
        .filter(Objects::nonNull)
        .findFirst()
        .orElse(null);
  }
}
