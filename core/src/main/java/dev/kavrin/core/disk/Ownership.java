package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.GroupPrincipal;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFileAttributes;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.nio.file.attribute.UserDefinedFileAttributeView;
import java.nio.file.attribute.UserPrincipal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Whose a file is and who may do what with it.
 *
 * @param attributes extended ones a person or program set, by name
 */
record Ownership(
    UserPrincipal owner,
    GroupPrincipal group,
    Set<PosixFilePermission> permissions,
    Map<String, byte[]> attributes) {
  private static final String ALL_MIGHTY = "root";

  static Ownership of(Path file) throws IOException {
    PosixFileAttributes a =
        Files.readAttributes(file, PosixFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
    return new Ownership(a.owner(), a.group(), a.permissions(), attributes(file));
  }

  private static Map<String, byte[]> attributes(Path file) {
    Map<String, byte[]> found = new TreeMap<>();
    UserDefinedFileAttributeView view = view(file);
    try {
      for (String name : view == null ? List.<String>of() : view.list()) {
        ByteBuffer value = ByteBuffer.allocate(view.size(name));
        view.read(name, value);
        found.put(name, value.array());
      }
    } catch (IOException noneHere) {
      return Map.of();
    }
    return found;
  }

  private static UserDefinedFileAttributeView view(Path file) {
    return Files.getFileAttributeView(
        file, UserDefinedFileAttributeView.class, LinkOption.NOFOLLOW_LINKS);
  }

  /** As far as this user may; what could not be kept, in words. */
  List<String> giveTo(Path file) throws IOException {
    List<String> lost = new ArrayList<>();
    PosixFileAttributeView view = Files.getFileAttributeView(file, PosixFileAttributeView.class);
    PosixFileAttributes there = view.readAttributes();
    if (!there.group().equals(group)) {
      attempt(() -> view.setGroup(group), "its group (" + group.getName() + ")", lost);
    }
    if (!there.owner().equals(owner)) {
      attempt(() -> view.setOwner(owner), "its owner (" + owner.getName() + ")", lost);
    }
    attempt(() -> view.setPermissions(permissions), "its permissions", lost);
    for (Map.Entry<String, byte[]> one : attributes.entrySet()) {
      attempt(
          () -> view(file).write(one.getKey(), ByteBuffer.wrap(one.getValue())),
          "its attribute " + one.getKey(),
          lost);
    }
    return lost;
  }

  private interface Change {
    void make() throws IOException;
  }

  private static void attempt(Change change, String what, List<String> lost) {
    try {
      change.make();
    } catch (FileSystemException | UnsupportedOperationException mayNot) {
      lost.add(what);
    } catch (IOException failed) {
      lost.add(what + " (" + failed.getMessage() + ")");
    }
  }

  /** What this user could not give to another file. */
  List<String> cannotKeep() {
    String user = System.getProperty("user.name");
    return user.equals(ALL_MIGHTY) || owner.getName().equals(user)
        ? List.of()
        : List.of("its owner (" + owner.getName() + ")");
  }

  static boolean staysAsSet(Path file) throws IOException {
    Set<PosixFilePermission> odd = PosixFilePermissions.fromString("r--r-x---");
    try {
      Set<PosixFilePermission> before = Files.getPosixFilePermissions(file);
      Files.setPosixFilePermissions(file, odd);
      boolean stays = Files.getPosixFilePermissions(file).equals(odd);
      Files.setPosixFilePermissions(file, before);
      return stays;
    } catch (FileSystemException | UnsupportedOperationException none) {
      return false;
    }
  }
}
