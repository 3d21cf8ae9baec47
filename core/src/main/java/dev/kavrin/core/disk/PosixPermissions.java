package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Owner, group and others (POSIX.1-2017, 4.5 File Access Permissions; from memory). */
final class PosixPermissions implements Permissions {
  private static final Set<PosixFilePermission> OTHERS =
      PosixFilePermissions.fromString("---rwxrwx");

  @Override
  public FileAttribute<?>[] ownerOnly() {
    return new FileAttribute<?>[] {
      PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------"))
    };
  }

  @Override
  public Optional<Boolean> opensToOthers(Path file) throws IOException {
    Set<PosixFilePermission> may = EnumSet.noneOf(PosixFilePermission.class);
    may.addAll(Files.getPosixFilePermissions(file));
    return Optional.of(may.removeAll(OTHERS));
  }

  @Override
  public void seal(Path file) throws IOException {
    Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("r--r--r--"));
  }

  @Override
  public List<String> give(Path like, Path file) throws IOException {
    return Ownership.of(like).giveTo(file);
  }

  @Override
  public List<String> cannotKeep(Path file) throws IOException {
    return Ownership.of(file).cannotKeep();
  }

  @Override
  public boolean stayAsSet(Path file) throws IOException {
    return Ownership.staysAsSet(file);
  }
}
