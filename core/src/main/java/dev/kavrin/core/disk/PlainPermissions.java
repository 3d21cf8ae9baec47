package dev.kavrin.core.disk;

import java.nio.file.Path;
import java.nio.file.attribute.FileAttribute;
import java.util.List;
import java.util.Optional;

/** Where a system does not tell who may do what: nothing is claimed and nothing is changed. */
final class PlainPermissions implements Permissions {
  private static final List<String> NOT_TOLD =
      List.of("its owner and permissions (this system does not tell them)");

  @Override
  public FileAttribute<?>[] ownerOnly() {
    return new FileAttribute<?>[0];
  }

  @Override
  public Optional<Boolean> opensToOthers(Path file) {
    return Optional.empty();
  }

  @Override
  public void seal(Path file) {
    // A file marked as read-only could not be taken away again here.
  }

  @Override
  public List<String> give(Path like, Path file) {
    return NOT_TOLD;
  }

  @Override
  public List<String> cannotKeep(Path file) {
    return NOT_TOLD;
  }

  @Override
  public boolean stayAsSet(Path file) {
    return false;
  }
}
