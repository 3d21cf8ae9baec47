package dev.kavrin.core.disk;

import java.nio.file.Path;
import java.util.UUID;

/**
 * The name of a file that is not finished: carries the node that writes it, so that only this node
 * clears it away.
 */
public final class StageName {
  private static final String PREFIX = ".kavrin-stage-";
  private static final String RESERVATION = ".name";

  private StageName() {}

  static Path in(Path folder, String node) {
    return folder.resolve(PREFIX + node + "-" + UUID.randomUUID() + ".part");
  }

  /** The note that a name in this folder is reserved. */
  static Path reservationIn(Path folder, String node) {
    return folder.resolve(PREFIX + node + "-" + UUID.randomUUID() + RESERVATION);
  }

  static boolean isReservation(Path file) {
    return is(file) && file.getFileName().toString().endsWith(RESERVATION);
  }

  /** True for a stage of this node, whatever job began it. */
  public static boolean ownedBy(Path file, String node) {
    return file.getFileName().toString().startsWith(PREFIX + node + "-");
  }

  /** True for a stage of any node. */
  public static boolean is(Path file) {
    return file.getFileName().toString().startsWith(PREFIX);
  }
}
