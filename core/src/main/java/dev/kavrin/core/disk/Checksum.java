package dev.kavrin.core.disk;

import java.util.zip.CRC32C;

/**
 * Length and CRC-32C (RFC 3720, appendix B.4) of bytes as they stream by: tells by a second pass
 * whether they are still what they were. Never an identity.
 */
final class Checksum {
  private final CRC32C crc = new CRC32C();
  private long length;

  void add(byte[] bytes, int offset, int count) {
    crc.update(bytes, offset, count);
    length += count;
  }

  long length() {
    return length;
  }

  boolean sameAs(Checksum other) {
    return length == other.length && crc.getValue() == other.crc.getValue();
  }

  @Override
  public String toString() {
    return "%d bytes with CRC-32C %08x".formatted(length, crc.getValue());
  }
}
