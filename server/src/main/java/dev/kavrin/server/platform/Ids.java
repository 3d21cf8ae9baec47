package dev.kavrin.server.platform;

import java.security.SecureRandom;
import java.time.Instant;
import java.util.UUID;

/** UUIDs of version 7 (RFC 9562, section 5.7): time first, so that they sort by age. */
public final class Ids {
  private static final SecureRandom RANDOM = new SecureRandom();

  private Ids() {}

  public static UUID next(Instant now) {
    long high = now.toEpochMilli() << 16 | 0x7000L | RANDOM.nextInt(1 << 12);
    long low = RANDOM.nextLong() & 0x3FFF_FFFF_FFFF_FFFFL | 0x8000_0000_0000_0000L;
    return new UUID(high, low);
  }
}
