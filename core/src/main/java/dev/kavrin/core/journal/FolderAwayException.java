package dev.kavrin.core.journal;

import java.io.IOException;
import java.nio.file.Path;

/** The place's marker is not there: its drive is away. Nothing was written. */
public final class FolderAwayException extends IOException {
  private final transient Path place;

  public FolderAwayException(Path place) {
    super(place + " is away: its marker is missing (drive not mounted?). Nothing was written");
    this.place = place;
  }

  public Path place() {
    return place;
  }
}
