package dev.kavrin.core.content.hdf5;

import dev.kavrin.core.content.Finding;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.util.Arrays;
import java.util.Optional;

/**
 * The head of an HDF5 file: where it stands, which version it is, where the file must end. Source:
 * The HDF Group, "HDF5 File Format Specification Version 3.0", section II.A.
 *
 * @param at offset of the signature: 0, 512, 1024 and so on
 * @param end bytes the file has when whole
 * @param writing true if the writer has marked the file as open and never took the mark back
 */
record Superblock(long at, int version, long end, boolean writing) {
  private static final byte[] SIGNATURE = {(byte) 0x89, 'H', 'D', 'F', '\r', '\n', 0x1a, '\n'};
  private static final int LONGEST = 64;

  /** Empty if there is no signature at any of the places where one may stand. */
  static Optional<Superblock> find(SeekableByteChannel in) throws IOException {
    for (long at = 0; at + SIGNATURE.length <= in.size(); at = at == 0 ? 512 : at * 2) {
      ByteBuffer head = ByteBuffer.allocate(LONGEST).order(ByteOrder.LITTLE_ENDIAN);
      in.position(at);
      while (head.hasRemaining() && in.read(head) >= 0) {}
      byte[] first = Arrays.copyOf(head.array(), SIGNATURE.length);
      if (Arrays.equals(first, SIGNATURE)) {
        return Optional.of(parse(at, head.clear()));
      }
    }
    return Optional.empty();
  }

  /** True if the signature stands at the very beginning. */
  static boolean beginsIn(ByteBuffer head) {
    return head.remaining() >= SIGNATURE.length
        && Arrays.equals(Arrays.copyOf(head.array(), SIGNATURE.length), SIGNATURE);
  }

  private static Superblock parse(long at, ByteBuffer head) {
    int version = head.get(8);
    if (version >= 2) {
      int size = width(head.get(9));
      boolean writing = version == 3 && (head.get(11) & 1) != 0;
      return new Superblock(at, version, number(head, 12 + 2 * size, size), writing);
    }
    int size = width(head.get(13));
    int addresses = version == 1 ? 28 : 24;
    return new Superblock(at, version, number(head, addresses + 2 * size, size), false);
  }

  /** Offsets are 2, 4 or 8 bytes wide in practice; anything else is a broken head. */
  private static int width(byte told) {
    return told == 2 || told == 4 ? told : 8;
  }

  private static long number(ByteBuffer head, int from, int width) {
    return switch (width) {
      case 2 -> head.getShort(from) & 0xFFFFL;
      case 4 -> head.getInt(from) & 0xFFFF_FFFFL;
      default -> head.getLong(from);
    };
  }

  /** What is wrong with a file of that many bytes, if anything is. */
  Optional<Finding> fault(long size) {
    if (end > size || end < 0) {
      return Optional.of(
          Finding.damaged(
              "cut-short",
              size,
              "Its head tells of " + end + " bytes, but it ends after " + size + "."));
    }
    return writing
        ? Optional.of(
            Finding.doubtful("not-closed", at + 11, "Its writer never closed it in order."))
        : Optional.empty();
  }
}
